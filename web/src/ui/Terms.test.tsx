import { screen } from "@testing-library/react";
import { expect, test } from "vitest";
import { serve, show } from "../testing/render";
import { TermsProvider, useSaid } from "./Terms";

const terms = [
  { words: ["RMS amps", "RMS"], says: "The steady current that would heat a wire as much." },
  { words: ["trip", "trips"], says: "A pack's own protection switches it off." },
  { words: ["Halls"], says: "Small parts that feel a magnet." },
];

function Sentence({ text }: { text: string }) {
  return <p>{useSaid()(text)}</p>;
}

const page = (text: string) => {
  serve({ "GET /api/terms": () => ({ body: terms }) });
  return show(
    <TermsProvider>
      <Sentence text={text} />
    </TermsProvider>,
  );
};

test("a word of the trade is explained where it stands, and the focus comes back to it", async () => {
  const { user } = page("Packs trip at 40 A; at [[5|speed]] they trip sooner, by RMS amps.");
  const word = await screen.findByRole("button", { name: "trip" });
  expect(screen.getAllByRole("button").map((one) => one.textContent)).toEqual(["trip", "RMS amps"]);
  expect(word.closest("p")?.textContent).toBe("Packs trip at 40 A; at 11.2 mph they trip sooner, by RMS amps.");
  word.focus();
  await user.keyboard("{Enter}");
  expect((await screen.findByRole("dialog")).textContent).toBe("trip. A pack's own protection switches it off.");
  await user.keyboard("{Escape}");
  expect(screen.queryByRole("dialog")).toBeNull();
  expect(document.activeElement).toBe(word);
});

test("only whole words count, small ones also at the start of a sentence", async () => {
  page("Trips are short. Strip the wire, halls are not Halls, and re-trip is none.");
  expect((await screen.findAllByRole("button")).map((one) => one.textContent)).toEqual(["Trips", "Halls"]);
});
