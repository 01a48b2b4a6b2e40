/** The stages side by side, each with how far it is. */

import { useEffect, useRef } from "react";
import { Link } from "react-router";
import type { Build, Finding, SetupRow } from "../api/client";
import type { StageName } from "../lib/stages";
import { stageTape as say } from "../texts/workspace";
import { Glyph } from "../ui/Glyph";
import { STAGES } from "./stages";

export function StageTape({
  build,
  row,
  stage,
  findings,
  ride,
  unasked,
}: {
  build: Build;
  row: SetupRow;
  stage: StageName;
  findings: Finding[];
  ride: boolean;
  /** Questions of the survey nobody has an answer to yet. */
  unasked: number;
}) {
  const tape = useRef<HTMLElement>(null);
  // On a phone the tape is longer than the screen: the stage one is at stays in view.
  // biome-ignore lint/correctness/useExhaustiveDependencies: another stage is another place on the tape
  useEffect(() => {
    // Braces: in newer browsers scrolling gives a promise, which is no clean-up.
    tape.current?.querySelector("[aria-current]")?.scrollIntoView({ inline: "center", block: "nearest" });
  }, [stage]);
  return (
    <nav ref={tape} className="tape" aria-label={say.stages}>
      {STAGES.map(({ name, mark: markOf }, i) => {
        const mine = findings.filter((f) => f.stage === name && f.severity !== "note");
        const { mark, words } = markOf({ mine, row, ride, unasked });
        return (
          <Link key={name} to={`/builds/${build.id}/setups/${row.id}/${name}`} aria-current={name === stage ? "page" : undefined}>
            <span className="font-head text-[29px] leading-[31px] font-medium tracking-[-.02em] text-ink3" aria-hidden="true">
              {i + 1}
            </span>
            <span className="min-w-0">
              <b className="block font-head text-[15px] leading-[17px] capitalize">{name}</b>
              <span className="flex items-center gap-1 text-[11.5px] leading-[14px] whitespace-nowrap text-ink2">
                <Glyph mark={mark} size={12} quiet /> {words}
              </span>
            </span>
          </Link>
        );
      })}
    </nav>
  );
}
