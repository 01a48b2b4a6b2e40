import { act, renderHook } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { useSettled } from "./usePlan";

test("a value settles after a while, and one of the same parts draws nothing again", () => {
  vi.useFakeTimers();
  try {
    let drawn = 0;
    const doc = { wheel: 1 };
    const { result, rerender } = renderHook(
      ({ goal }) => {
        drawn += 1;
        return useSettled({ doc, goal }, 500);
      },
      { initialProps: { goal: 1 } },
    );
    act(() => vi.advanceTimersByTime(5000));
    expect(drawn).toBe(1);
    rerender({ goal: 2 });
    act(() => vi.advanceTimersByTime(499));
    expect(result.current.goal).toBe(1);
    act(() => vi.advanceTimersByTime(1));
    expect(result.current).toEqual({ doc, goal: 2 });
    // React may look once more at a component before it leaves it alone.
    act(() => vi.advanceTimersByTime(2000));
    const soFar = drawn;
    act(() => vi.advanceTimersByTime(5000));
    expect(drawn).toBe(soFar);
  } finally {
    vi.useRealTimers();
  }
});
