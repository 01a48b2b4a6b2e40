import { screen } from "@testing-library/react";
import { expect, test } from "vitest";
import { show } from "../testing/render";
import { useKept } from "./useKept";

function Form() {
  const [text, setText] = useKept("note", "");
  return <input aria-label="note" value={text} onChange={(e) => setText(e.target.value)} />;
}

test("what is typed comes back after the page was left, until it is emptied", async () => {
  const { user, unmount } = show(<Form />);
  await user.type(screen.getByLabelText("note"), "squeaks");
  unmount();
  const again = show(<Form />);
  expect(screen.getByLabelText<HTMLInputElement>("note").value).toBe("squeaks");
  await again.user.clear(screen.getByLabelText("note"));
  expect(localStorage.getItem("gecko-form::note")).toBeNull();
  again.unmount();
  localStorage.setItem("gecko-form::note", "{");
  show(<Form />);
  expect(screen.getByLabelText<HTMLInputElement>("note").value).toBe("");
  localStorage.clear();
});
