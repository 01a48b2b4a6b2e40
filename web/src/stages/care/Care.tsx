/** Care: charging for each pack, and the journal. */

import { Heading } from "../Heading";
import type { StageProps } from "../stage";
import { Charging } from "./Charging";
import { Journal } from "./Journal";

export function Care(props: StageProps) {
  return (
    <>
      <Heading title="Care" line="Charging, upkeep and what happened." />
      <div className="grid grid-cols-2 gap-6 max-desk:grid-cols-1">
        <Charging {...props} />
        <Journal {...props} />
      </div>
    </>
  );
}
