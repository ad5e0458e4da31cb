import { queryOptions, useMutation, useQuery, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { same } from "./ahead";
import { clock } from "./clock";
import { http, Refused, take, takeKept } from "./client";
import type { Waiting } from "./outbox";
import type { Act, HandTool, Joint, Onward, Role, Run, Session, Stored } from "./types";

export const sessionQuery = queryOptions({
  queryKey: ["session"],
  queryFn: async (): Promise<Session | null> => {
    try {
      const asked = Date.now();
      const { data, kept } = await takeKept(http.GET("/api/session"));
      if (!kept) clock.measured(data.now, asked, Date.now());
      return data;
    } catch (e) {
      if (e instanceof Refused && e.problem.status === 401) return null;
      throw e;
    }
  },
  staleTime: Number.POSITIVE_INFINITY,
});

export function useSession() {
  return useQuery(sessionQuery).data ?? undefined;
}

/** The unit that whoever is signed in types torques in. */
export function useTorqueUnit() {
  const session = useSession();
  return session?.torqueUnit || session?.site.torqueUnit || "N·m";
}

/** Whether whoever is signed in has one of the roles. */
export function useMay(...roles: Role[]) {
  return useSession()?.person.roles.some((r) => roles.includes(r)) ?? false;
}

/** The site as its administrator sees it. */
export function useSite() {
  return useQuery({ queryKey: ["site"], queryFn: () => take(http.GET("/api/site")), staleTime: 5_000 });
}

export function useWall() {
  // Nobody tells of a device that has fallen silent.
  return useQuery({ queryKey: ["wall"], queryFn: () => take(http.GET("/api/wall")), refetchInterval: 60_000 });
}

export function useWords() {
  return useQuery({ queryKey: ["words"], queryFn: () => take(http.GET("/api/words")), staleTime: 60_000 });
}

export function useLibrary() {
  return useQuery({ queryKey: ["library"], queryFn: () => take(http.GET("/api/library")), staleTime: 60_000 });
}

/** The site's own figures. */
export function useOwn() {
  return useQuery({ queryKey: ["own"], queryFn: () => take(http.GET("/api/own")), staleTime: 60_000 });
}

/** Has them, and the words that come of them, read again. */
export function useFreshOwn() {
  const queries = useQueryClient();
  return () => {
    void queries.invalidateQueries({ queryKey: ["own"] });
    void queries.invalidateQueries({ queryKey: ["words"] });
  };
}

/** The newer of two states of a run: an answer that was overtaken is not shown. */
export function newer(before: Run | undefined, after: Run | undefined): Run | undefined {
  if (!before || !after || before.id !== after.id) return after;
  if (before.entries > after.entries) return before;
  // After an entry only the end of the tape comes back; what was there before stays.
  const oldest = after.tape.at(-1)?.seq ?? 0;
  return { ...after, tape: [...after.tape, ...before.tape.filter((l) => l.seq < oldest)], ahead: rest(before.ahead, after.ahead) };
}

/** The path ahead: after an entry only its near end comes back, and what lay behind that stays while the two agree. */
function rest(before: Act[], after: Act[]) {
  const same = (a: Act | undefined, b: Act | undefined) => JSON.stringify(a) === JSON.stringify(b);
  const from = before.findIndex((a) => same(a, after[0]));
  return from >= 0 && after.every((a, i) => same(a, before[from + i])) ? before.slice(from) : after;
}

/** What this device knows to be stored, and whom to tell where the server does not have it any more. */
export const stored: {
  expects?: () => ReadonlyMap<string, number>;
  setBack?: (run: string, entries: number) => void;
  since?: (run: string, entries: number) => Promise<Since>;
} = {};

/** What this device stored of a run after it was taken along. */
export interface Since {
  acts: Waiting[];
  /** Others stored something in between, that is not on this device. */
  gap: boolean;
}

/** A joint as it is shown; without the server, as it was taken along, with what this device did since. */
export type Shown = Joint & {
  kept?: Since & { at: string };
  /** Judged on this device, without the server: the acts of it that are in the run. */
  judged?: ReadonlySet<string>;
};

export function jointQuery(queries: QueryClient, id: string) {
  return queryOptions({
    queryKey: ["joint", id],
    queryFn: async (): Promise<Shown> => {
      const had = queries.getQueryData<Shown>(["joint", id]);
      const before = had?.run;
      const must = stored.expects?.();
      const { data: joint, kept } = await takeKept(http.GET("/api/joints/{joint}", { params: { path: { joint: id } } }));
      const { run } = joint;
      if (kept) {
        // What is on the screen is newer than what was taken along, or the same.
        if (had && !had.kept) return had;
        const since = run && (await stored.since?.(run.id, run.entries));
        return { ...joint, kept: { at: kept, acts: since?.acts ?? [], gap: since?.gap ?? false } };
      }
      // Fewer than there were before it was asked: the server's database was set back, and what it has now counts.
      if (run && run.entries < Math.max(must?.get(run.id) ?? 0, before?.id === run.id ? before.entries : 0)) {
        stored.setBack?.(run.id, run.entries);
        return joint;
      }
      return { ...joint, run: newer(queries.getQueryData<Joint>(["joint", id])?.run, joint.run) };
    },
  });
}

export function useJoint(id: string) {
  return useQuery(jointQuery(useQueryClient(), id));
}

/** Below so many acts ahead, a screen hears of the whole run again. */
const SHORT = 12;

/** Whether a screen sees far enough ahead to be told of one act alone. */
export const enough = (run: Run) => run.ahead.length >= SHORT;

/** How many entries of a joint's run this device has seen, as long as it sees far enough ahead. */
export function known(queries: QueryClient, joint: string) {
  const run = queries.getQueryData<Joint>(["joint", joint])?.run;
  return run && enough(run) ? run.entries : undefined;
}

/** A run with one act more that went as it was to go, or with its tool set. */
export function goOn(run: Run, o: Onward): Run {
  const [first] = run.ahead;
  const path = first && same(first, o.next) ? run.ahead.slice(1) : [];
  return {
    ...run,
    entries: o.after + 1,
    next: o.next,
    ahead: o.step ? path : run.ahead,
    bolts: run.bolts.map((b) => o.bolts.find((x) => x.group === b.group && x.position === b.position) ?? b),
    steps: run.steps.map((s) => (s.id === o.step?.id ? { ...s, ...o.step } : s)),
    tape: [o.line, ...run.tape],
    legend: o.legend ?? run.legend,
  };
}

/** Puts what came of an entry where every screen looks for the run. */
export function keepStored(queries: QueryClient, jointID: string, answer: Stored) {
  const key = ["joint", jointID];
  const before = queries.getQueryData<Shown>(key);
  if (!before) return;
  const seen = before.run?.entries ?? 0;
  const { onward } = answer;
  // What was told rests on a state that this device does not have: it asks.
  if (onward && seen < onward.after) return void queries.invalidateQueries({ queryKey: key });
  const told = onward ? before.run && seen === onward.after && goOn(before.run, onward) : answer.run;
  // Either overtaken by another answer, or the server's database was set back: asked anew, that is told apart.
  if (told && told.id === before.run?.id && told.entries < seen) return void queries.invalidateQueries({ queryKey: key });
  const run = told ? newer(before.run, told) : undefined;
  if (run) queries.setQueryData<Shown>(key, { ...before, kept: undefined, run, station: run.station });
  // A tool that was reported is held back: that is told with the joint.
  if (answer.run && answer.run.doubted?.join() !== before.run?.doubted?.join()) void queries.invalidateQueries({ queryKey: key });
}

/** What the place of a bolt asks of a chain. */
export interface Place {
  offset?: boolean;
  /** Degrees from straight ahead. */
  angle?: number;
  /** mm that an extension bridges. */
  reach?: number;
  /** Tags that are in another of the hands that work at once. */
  taken?: string[];
}

export function useWays(joint: string, group: string, byHand?: HandTool, at: Place = {}) {
  return useQuery({
    queryKey: ["ways", joint, group, byHand ?? "crib", at.offset ?? false, at.angle ?? 0, at.reach ?? 0, at.taken ?? []],
    queryFn: () =>
      take(http.POST("/api/joints/{joint}/ways", { params: { path: { joint } }, body: { group, ...at, ...(byHand ? { byHand } : {}) } })),
    // While an offset end is turned, what is drawn stays until the next is there.
    placeholderData: (before, query) => (query?.queryKey[1] === joint && query.queryKey[2] === group && at.offset ? before : undefined),
    retry: false,
  });
}

/** What instruments read lately that goes into a unit; asked again and again while one is there. */
export function useOffered(unit: string | undefined) {
  return useQuery({
    queryKey: ["offered", unit],
    queryFn: () => take(http.GET("/api/readings/offered", { params: { query: { unit: unit! } } })),
    enabled: unit !== undefined,
    refetchInterval: (q) => (q.state.data?.there ? 1000 : 30_000),
    retry: false,
  });
}

export function useSignIn() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: { login: string; pin: string }) => take(http.POST("/api/session", { body })),
    onSuccess: (session) => {
      queries.removeQueries({ predicate: (q) => q.queryKey[0] !== "session" });
      queries.setQueryData(["session"], session);
      tellTabs();
    },
  });
}

export function useSignOut() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: () => take(http.DELETE("/api/session")),
    onSuccess: () => {
      queries.removeQueries({ predicate: (q) => q.queryKey[0] !== "session" });
      queries.setQueryData(["session"], null);
      tellTabs();
    },
  });
}

/** Has the other tabs look who is signed in. */
function tellTabs() {
  const tabs = new BroadcastChannel("dynacor-session");
  tabs.postMessage("changed");
  tabs.close();
}
