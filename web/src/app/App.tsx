/** Routes, and the door: who is not signed in sees only that. */
import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense } from "react";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { client, unwrap } from "../api/client";
import { Door } from "./Door";

const GarageHome = lazy(() => import("../garage/GarageHome").then((m) => ({ default: m.GarageHome })));
const StartBuild = lazy(() => import("../start/StartBuild").then((m) => ({ default: m.StartBuild })));
const Workspace = lazy(() => import("../workspace/Workspace").then((m) => ({ default: m.Workspace })));
const BuildSheet = lazy(() => import("../sheet/BuildSheet").then((m) => ({ default: m.BuildSheet })));

function NotFound() {
  return (
    <main className="grid min-h-full place-content-center gap-3 p-6 text-center">
      <h1 className="text-[32px]">Nothing here</h1>
      <a className="linkish" href="/">
        Back to the garage
      </a>
    </main>
  );
}

const Waiting = () => (
  <p className="p-6 text-ink2" role="status">
    Opening…
  </p>
);
const page = (node: React.ReactNode) => <Suspense fallback={<Waiting />}>{node}</Suspense>;

const router = createBrowserRouter([
  { path: "/", element: page(<GarageHome />) },
  { path: "/start", element: page(<StartBuild />) },
  { path: "/builds/:buildId", element: page(<Workspace />) },
  { path: "/builds/:buildId/setups/:setupId", element: <Navigate to="power" replace relative="path" /> },
  { path: "/builds/:buildId/setups/:setupId/sheet", element: page(<BuildSheet />) },
  { path: "/builds/:buildId/setups/:setupId/:stage", element: page(<Workspace />) },
  { path: "/builds/:buildId/setups/:setupId/:stage/:place", element: page(<Workspace />) },
  { path: "*", element: <NotFound /> },
]);

export function App() {
  const session = useQuery({ queryKey: ["session"], queryFn: () => unwrap(client.GET("/api/session")) });
  if (session.isPending) return <Waiting />;
  if (session.isError)
    return (
      <p className="p-6" role="alert">
        The server does not answer. Is it running? Reload to try again.
      </p>
    );
  if (!session.data.signed_in) return <Door session={session.data} />;
  return <RouterProvider router={router} />;
}
