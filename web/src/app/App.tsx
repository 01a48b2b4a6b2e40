/** Routes, and the door: who is not signed in sees only that. */
import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import { createBrowserRouter, Navigate, RouterProvider, useRouteError } from "react-router";
import { client, unwrap } from "../api/client";
import { UndoProvider } from "../bin/Undo";
import { Door } from "../door/Door";
import { invited, Join } from "../door/Join";
import { Outbox } from "../frame/Outbox";
import { keepFor } from "../lib/drafts";
import { useHold } from "../lib/underway";
import { shown } from "../look/link";
import { app as say } from "../texts/app";

const GarageHome = lazy(() => import("../garage/GarageHome").then((m) => ({ default: m.GarageHome })));
const RackPage = lazy(() => import("../rack/RackPage").then((m) => ({ default: m.RackPage })));
const NewPart = lazy(() => import("../rack/NewPart").then((m) => ({ default: m.NewPart })));
const PartPage = lazy(() => import("../rack/PartPage").then((m) => ({ default: m.PartPage })));
const StartBuild = lazy(() => import("../start/StartBuild").then((m) => ({ default: m.StartBuild })));
const Workspace = lazy(() => import("../workspace/Workspace").then((m) => ({ default: m.Workspace })));
const Compare = lazy(() => import("../compare/Compare").then((m) => ({ default: m.Compare })));
const DrawingSheets = lazy(() => import("../sheet/DrawingSheets").then((m) => ({ default: m.DrawingSheets })));
const WhenItGoesWrong = lazy(() => import("../wrong/WhenItGoesWrong").then((m) => ({ default: m.WhenItGoesWrong })));
const Look = lazy(() => import("../look/Look").then((m) => ({ default: m.Look })));
const BuildSheet = lazy(() => import("../sheet/BuildSheet").then((m) => ({ default: m.BuildSheet })));

function NotFound() {
  return (
    <main className="grid min-h-full place-content-center gap-3 p-6 text-center">
      <h1 className="text-[32px]">{say.nothingHere}</h1>
      <a className="linkish" href="/">
        {say.backToTheGarage}
      </a>
    </main>
  );
}

/** When a page breaks: what to do, in place of a stack of code. The edit under way lies in the browser until the server has it. */
export function Broken() {
  const error = useRouteError();
  return (
    <main className="grid min-h-full place-content-center gap-3 p-6 text-center" role="alert">
      <h1 className="text-[32px]">{say.thisPageBroke}</h1>
      <p className="max-w-[46ch] text-ink2">{say.whatYouTypedIs}</p>
      <p className="flex justify-center gap-3">
        <button type="button" className="btn go" onClick={() => window.location.reload()}>
          {say.reload}
        </button>
        <a className="btn" href="/">
          {say.backToTheGarage}
        </a>
      </p>
      <p className="text-small text-ink3">{error instanceof Error ? error.message : ""}</p>
    </main>
  );
}

function Waiting() {
  useHold();
  return (
    <p className="p-6 text-ink2" role="status">
      {say.opening}
    </p>
  );
}
const page = (node: React.ReactNode) => <Suspense fallback={<Waiting />}>{node}</Suspense>;

const router = createBrowserRouter([
  {
    errorElement: <Broken />,
    children: [
      { path: "/", element: page(<GarageHome />) },
      { path: "/rack", element: page(<RackPage />) },
      { path: "/rack/new", element: page(<NewPart />) },
      { path: "/rack/:partId", element: page(<PartPage />) },
      { path: "/start", element: page(<StartBuild />) },
      { path: "/builds/:buildId", element: page(<Workspace />) },
      { path: "/builds/:buildId/setups/:setupId", element: <Navigate to="power" replace relative="path" /> },
      { path: "/builds/:buildId/compare", element: page(<Compare />) },
      { path: "/trouble", element: page(<WhenItGoesWrong />) },
      { path: "/builds/:buildId/trouble", element: page(<WhenItGoesWrong />) },
      { path: "/builds/:buildId/setups/:setupId/sheet", element: page(<BuildSheet />) },
      { path: "/builds/:buildId/setups/:setupId/drawing", element: page(<DrawingSheets />) },
      { path: "/builds/:buildId/setups/:setupId/:stage", element: page(<Workspace />) },
      { path: "/builds/:buildId/setups/:setupId/:stage/:place", element: page(<Workspace />) },
      { path: "*", element: <NotFound /> },
    ],
  },
]);

export function App() {
  const [token, setToken] = useState(invited);
  const [looked] = useState(shown);
  const session = useQuery({ queryKey: ["session"], queryFn: () => unwrap(client.GET("/api/session")) });
  if (session.isPending) return <Waiting />;
  if (session.isError)
    return (
      <p className="p-6" role="alert">
        {say.theServerDoesNot}
      </p>
    );
  if (looked)
    return (
      <Suspense fallback={<Waiting />}>
        <Look token={looked} />
      </Suspense>
    );
  if (token) return <Join session={session.data} token={token} away={() => setToken("")} />;
  if (!session.data.signed_in) return <Door session={session.data} />;
  keepFor(session.data.keeper);
  return (
    <UndoProvider>
      <RouterProvider router={router} />
      <Outbox />
    </UndoProvider>
  );
}
