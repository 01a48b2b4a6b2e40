import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, render } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { hold, Underway, useHold } from "./underway";

const told = () => document.documentElement.dataset.underway;
const client = new QueryClient();
let answer: (value: number) => void = () => {};

function Asks() {
  useQuery({
    queryKey: ["a"],
    queryFn: () =>
      new Promise<number>((done) => {
        answer = done;
      }),
  });
  return null;
}

function Opening() {
  useHold();
  return null;
}

test("what is asked of the server and what is about to be asked are counted until they are there", async () => {
  const page = (opening: boolean) => (
    <QueryClientProvider client={client}>
      <Underway />
      <Asks />
      {opening && <Opening />}
    </QueryClientProvider>
  );
  const shown = render(page(true));
  await vi.waitFor(() => expect(told()).toBe("2"));
  shown.rerender(page(false));
  await vi.waitFor(() => expect(told()).toBe("1"));
  answer(1);
  await vi.waitFor(() => expect(told()).toBe("0"));
  const release = await act(async () => hold());
  expect(told()).toBe("1");
  await act(async () => {
    release();
    release();
  });
  expect(told()).toBe("0");
});
