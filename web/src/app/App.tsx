import { MantineProvider } from "@mantine/core";
import { QueryClient, QueryClientProvider, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { Along } from "../along/shelf";
import { follow } from "../api/live";
import { Outbox } from "../api/outbox";
import { keepStored, known, sessionQuery, stored } from "../api/queries";
import { believe, onAnother, passes, waiting, withoutServer } from "../api/client";
import { Pocket } from "../pocket/pocket";
import { AlongContext, LockContext, OutboxContext, PocketContext } from "./context";
import { Locked } from "./Locked";
import { knownPeople, useLock } from "./lock";
import { ChoosePin } from "./ChoosePin";
import "./hand"; // what this device chose is on the page before anything is drawn
import { keepHeard } from "./heard";
import { release } from "./release";
import { Shell } from "./Shell";
import { SignIn } from "./SignIn";
import { useOwnWords } from "./ownWords";
import { change, locale, LONG } from "../words/locale";
import { theme } from "./theme";

// Pages come when they are wanted: whoever signs in waits for none of them.
const wall = () => import("../wall/Wall");
const jointPage = () => import("../joint/JointPage");

const router = createBrowserRouter([
  {
    Component: Shell,
    children: [
      { index: true, element: <Navigate to="/wall" replace /> },
      { path: "wall", lazy: async () => ({ Component: (await wall()).Wall }), HydrateFallback: () => null },
      {
        path: "joint/:joint/:station?",
        lazy: async () => ({ Component: (await jointPage()).JointPage }),
        HydrateFallback: () => null,
      },
      {
        path: "library/:recipe?",
        lazy: async () => ({ Component: (await import("../library/Library")).Library }),
        HydrateFallback: () => null,
      },
      {
        path: "library/:recipe/edit",
        lazy: async () => ({ Component: (await import("../library/edit/Editor")).Editor }),
        HydrateFallback: () => null,
      },
      {
        path: "crib/:tool?",
        lazy: async () => ({ Component: (await import("../crib/Crib")).Crib }),
        HydrateFallback: () => null,
      },
      { path: "site", lazy: async () => ({ Component: (await import("../site/Site")).Site }), HydrateFallback: () => null },
      {
        path: "bench/drills",
        lazy: async () => ({ Component: (await import("../bench/drills/Drills")).Drills }),
        HydrateFallback: () => null,
      },
      { path: "bench/:joint?", lazy: async () => ({ Component: (await import("../bench/Bench")).Bench }), HydrateFallback: () => null },
      {
        path: "planning",
        lazy: async () => ({ Component: (await import("../planning/Planning")).Planning }),
        HydrateFallback: () => null,
      },
      {
        path: "device",
        lazy: async () => ({ Component: (await import("../along/Device")).Device }),
        HydrateFallback: () => null,
      },
      { path: "*", element: <Navigate to="/wall" replace /> },
    ],
  },
]);

export function App() {
  const [queries] = useState(
    () =>
      new QueryClient({
        defaultOptions: {
          queries: { staleTime: 10_000, retry: (n, e) => passes(e) && n < 20, retryDelay: 1000, networkMode: "always" },
          mutations: { networkMode: "always" },
        },
      }),
  );
  return (
    <MantineProvider theme={theme} defaultColorScheme="auto">
      <QueryClientProvider client={queries}>
        <SignedIn />
      </QueryClientProvider>
    </MantineProvider>
  );
}

/** Everything behind the sign-in, or the sign-in. */
function SignedIn() {
  const queries = useQueryClient();
  const session = useQuery(sessionQuery);
  const outbox = useMemo(() => new Outbox(), []);
  const along = useMemo(() => new Along(), []);
  const pocket = useMemo(
    () =>
      new Pocket({
        bundle: along.bundle,
        since: (run, entries) => outbox.since(run, entries),
        waiting: () => outbox.mine(),
        worker: () => new Worker(new URL("../pocket/worker.ts", import.meta.url), { type: "module" }),
      }),
    [outbox, along],
  );
  const who = session.data?.person;
  const person = who?.id;
  const signedIn = session.data === undefined ? undefined : session.data !== null; // undefined: nobody knows yet
  const [locked, setLocked] = useLock(person !== undefined);
  const lock = useCallback(() => setLocked(true), [setLocked]);
  useEffect(() => {
    if (who) knownPeople.add({ login: who.login, name: who.name });
  }, [who]);
  useEffect(() => {
    outbox.onStored = (joint, answer) => {
      keepStored(queries, joint, answer);
      along.moved(joint);
    };
    waiting.read = () => {
      const { acts } = outbox.read();
      const since = Math.min(...acts.map((a) => Date.parse(a.entry.at)));
      return `${acts.length} ${acts.length > 0 ? Math.max(0, Math.round((Date.now() - since) / 1000)) : 0}`;
    };
    stored.expects = () => outbox.expects();
    stored.since = (run, entries) => outbox.since(run, entries);
    stored.setBack = (run, entries) => void outbox.setBack(run, entries);
    outbox.judge = pocket.judge;
    withoutServer.answer = pocket.answer;
    outbox.knows = (joint) => known(queries, joint);
    outbox.onRefused = (joint) => void queries.invalidateQueries({ queryKey: ["joint", joint] });
    outbox.onSignedOut = () => queries.setQueryData(["session"], null);
  }, [outbox, along, pocket, queries]);
  believe(person);
  const reads = session.data?.locale;
  useEffect(() => {
    if (reads && locale !== LONG) change(reads);
  }, [reads]);
  const ownWords = useOwnWords(signedIn === true);
  useEffect(() => {
    if (signedIn !== undefined) void wall().then(jointPage); // it is where everybody goes next
  }, [signedIn]);
  useEffect(() => {
    const tabs = new BroadcastChannel("dynacor-session");
    const anew = () => void queries.invalidateQueries({ queryKey: ["session"] });
    tabs.onmessage = anew;
    onAnother.call = anew;
    return () => tabs.close();
  }, [queries]);
  useEffect(() => {
    outbox.as(person);
    if (signedIn !== undefined) along.as(person ?? null);
    const stop = person ? follow(queries, outbox, (joint) => along.moved(joint)) : undefined;
    if (person) release.look();
    const silent = person ? keepHeard(outbox, along) : undefined;
    return () => {
      stop?.();
      silent?.();
      pocket.close();
      // What was read for one person is not shown to another.
      queries.removeQueries({ predicate: (q) => q.queryKey[0] !== "session" });
    };
  }, [outbox, along, pocket, queries, person, signedIn]);
  if (session.data === undefined) return session.isError ? <SignIn unreachable /> : null;
  if (session.data === null) return <SignIn />;
  if (session.data.once) return <ChoosePin session={session.data} />;
  if (locked) return <Locked session={session.data} onOpen={() => setLocked(false)} />;
  return (
    <OutboxContext value={outbox}>
      <AlongContext value={along}>
        <PocketContext value={pocket}>
          <LockContext value={lock}>
            <RouterProvider router={router} key={ownWords} />
          </LockContext>
        </PocketContext>
      </AlongContext>
    </OutboxContext>
  );
}
