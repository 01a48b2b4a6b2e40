import { render, screen } from "@testing-library/react";
import { createMemoryRouter, RouterProvider } from "react-router";
import { expect, test, vi } from "vitest";
import { Broken } from "./App";

function Bad(): never {
  throw new Error("a line of the plot is missing");
}

test("a page that breaks says what to do and that nothing is lost", () => {
  const quiet = vi.spyOn(console, "error").mockImplementation(() => {});
  render(
    <RouterProvider router={createMemoryRouter([{ errorElement: <Broken />, children: [{ path: "/", element: <Bad /> }] }])} />,
  );
  expect(screen.getByRole("heading", { name: "This page broke" })).toBeDefined();
  expect(screen.getByText(/kept in this browser/)).toBeDefined();
  expect(screen.getByRole("link", { name: "Back to the garage" }).getAttribute("href")).toBe("/");
  expect(screen.getByText("a line of the plot is missing")).toBeDefined();
  expect(screen.queryByText(/developer/)).toBeNull();
  quiet.mockRestore();
});
