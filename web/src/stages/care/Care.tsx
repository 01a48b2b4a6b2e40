/** Care: charging for each pack, and the journal. */

import { care as say } from "../../texts/care";
import { Heading } from "../Heading";
import type { StageProps } from "../stage";
import { Charging } from "./Charging";
import { Journal } from "./Journal";

export function Care(props: StageProps) {
  return (
    <>
      <Heading title={say.care} line={say.chargingUpkeepAndWhat} />
      <div className="grid grid-cols-2 gap-6 max-desk:grid-cols-1">
        <Charging {...props} />
        <Journal {...props} />
      </div>
    </>
  );
}
