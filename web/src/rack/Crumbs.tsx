/** Where one is within the rack. */
import { Link } from "react-router";
import { rackPage as say } from "../texts/rack";

export function Crumbs({ name }: { name?: string }) {
  if (!name) return <strong className="font-head text-[15px] text-ink">{say.rack}</strong>;
  return (
    <>
      <Link to="/rack" className="underline underline-offset-3">
        {say.rack}
      </Link>
      <span>/</span>
      <strong className="truncate font-head text-[15px] text-ink">{name}</strong>
    </>
  );
}
