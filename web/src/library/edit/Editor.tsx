import { Button, Group, SegmentedControl, Text } from "@mantine/core";
import { useDebouncedValue, useStateHistory } from "@mantine/hooks";
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link, useLocation, useNavigate, useParams, useSearchParams } from "react-router";
import { http, take } from "../../api/client";
import { useSession, useWords } from "../../api/queries";
import type { Recipe, RecipeChecked, RecipeFault } from "../../api/types";
import { InBar } from "../../app/Shell";
import { dateTime } from "../../ui/format";
import { Panel } from "../../ui/Panel";
import { Refusal } from "../../ui/Refusal";
import { Changes } from "./Changes";
import { EditingContext, type Editing } from "./context";
import { another, at, insert, list, names, put, text, type Doc, type Json, type Path } from "./document";
import { DryRun } from "./DryRun";
import { AsFile } from "./AsFile";
import { Outline, SECTIONS } from "./Outline";
import { Section } from "./Section";
import { stationsOf, type Shape } from "./shape";
import { StepForm } from "./StepForm";
import classes from "./edit.module.css";
import { told, tr } from "../../words/words";

/** What is edited: the newest edition, a copy of it under another id, or a file that was taken in. */
type Of = "edition" | "copy" | "file";

interface Begun {
  doc: Doc;
  /** The edition it was made from; 0: none. */
  base: number;
}

const check = (file: string) => take(http.POST("/api/library/draft", { body: { file } }));

/** What was edited on this device and not kept yet. */
const drafts = {
  read(key: string): (Begun & { at: string }) | undefined {
    try {
      return JSON.parse(localStorage.getItem(key) ?? "") as Begun & { at: string };
    } catch {
      return undefined;
    }
  },
  write: (key: string, b: Begun) => localStorage.setItem(key, JSON.stringify({ ...b, at: new Date().toISOString() })),
  drop: (key: string) => localStorage.removeItem(key),
};

/** A recipe is edited on screen: its parts, bolts, values and steps, held to the rules by the server as one types. */
export function Editor() {
  const { recipe = "" } = useParams();
  const [search] = useSearchParams();
  const of = (search.get("of") ?? "edition") as Of;
  const taken = (useLocation().state as { file?: string } | null)?.file;
  const person = useSession()?.person.id ?? "";
  const key = `dynacor-recipe/${person}/${recipe}/${of}`;
  const shape = useQuery({
    queryKey: ["recipe-schema"],
    queryFn: async () => (await (await fetch("/api/library/schema")).json()) as Shape,
    staleTime: Number.POSITIVE_INFINITY,
  });
  const begun = useQuery({
    queryKey: ["recipe-begun", recipe, of, taken],
    queryFn: async (): Promise<Begun & { file?: string }> => {
      if (of === "file" && taken !== undefined) {
        const c = await check(taken);
        return { doc: (c.document ?? {}) as Doc, base: 0, file: c.document ? undefined : taken };
      }
      const answer = await fetch(`/api/library/${recipe}/json`);
      if (!answer.ok) throw new Error();
      const doc = (await answer.json()) as Doc;
      if (of === "edition") return { doc, base: Number(doc.edition) };
      return { doc: { ...doc, id: `${text(doc, "id")}-copy`, title: tr("{doc}, copy", { doc: text(doc, "title") }), edition: 1 }, base: 0 };
    },
    staleTime: 0,
    gcTime: 0,
    retry: false,
  });
  const [fresh, setFresh] = useState(false);
  if (shape.isError || begun.isError) return <Refusal error={shape.error ?? begun.error} />;
  if (!shape.data || !begun.data || begun.isFetching) return null;
  const draft = fresh || (of === "file" && taken !== undefined) ? undefined : drafts.read(key);
  const changed = draft && JSON.stringify(draft.doc) !== JSON.stringify(begun.data.doc);
  return (
    <Bench
      key={`${key}/${fresh}`}
      shape={shape.data}
      begun={changed ? draft : begun.data}
      file={begun.data.file}
      since={changed ? draft.at : undefined}
      store={(b) => drafts.write(key, b)}
      drop={() => drafts.drop(key)}
      again={() => {
        drafts.drop(key);
        setFresh(true);
      }}
    />
  );
}

interface BenchProps {
  shape: Shape;
  begun: Begun;
  /** A file that cannot be read as a recipe: it is mended as a text. */
  file?: string;
  /** When the draft that is gone on with was laid down. */
  since?: string;
  store: (b: Begun) => void;
  drop: () => void;
  again: () => void;
}

type Mode = "edit" | "dry run" | "what differs" | "file";

/** Where a fault is mended: a section, or a step. */
function placeOf(f: RecipeFault) {
  const [first = "", second] = f.field.split(".");
  if (first === "steps") return second === undefined ? undefined : `steps.${second}`;
  return SECTIONS.find((s) => s.paths.some((p) => p[0] === first))?.id;
}

function Bench({ shape, begun, file: torn, since, store, drop, again }: BenchProps) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const lubricants = useWords().data?.lubricants.map((l) => l.name) ?? [];
  const [doc, history, { current, history: states }] = useStateHistory<Doc>(begun.doc);
  const [search, setSearch] = useSearchParams();
  const [mode, setMode] = useState<Mode>(torn === undefined ? "edit" : "file");
  // The edition that it is kept on: of another that was kept meanwhile only once it was looked at.
  const [base, setBase] = useState(begun.base);
  const chosen = search.get("at") ?? "";
  const choose = (place: string) => {
    setMode("edit");
    setSearch((s) => {
      if (place) s.set("at", place);
      else s.delete("at");
      return s;
    });
  };
  const file = JSON.stringify(doc);
  const [settled] = useDebouncedValue(file, 200);
  const checked = useQuery({
    queryKey: ["recipe-check", settled],
    queryFn: () => check(settled),
    placeholderData: keepPreviousData,
    gcTime: 0,
    retry: false,
  });
  const said: RecipeChecked = checked.data ?? { faults: [], changes: [], newest: begun.base };
  // The drawing and the words stay as they last held while something is being mended.
  const good = useRef<Recipe>(undefined);
  if (said.recipe) good.current = said.recipe;
  useEffect(() => {
    if (doc !== begun.doc) store({ doc, base });
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [doc]);
  const editing: Editing = {
    doc,
    shape,
    faults: said.faults,
    lubricants,
    set: (path: Path, value: Json | undefined) => history.set(put(doc, path, value)),
    change: (to) => history.set(to(doc)),
  };
  const keep = useMutation({
    mutationFn: () => take(http.POST("/api/library", { body: { file, after: base || undefined } })),
    onSuccess: (kept) => {
      drop();
      void queries.invalidateQueries({ queryKey: ["library"] });
      void queries.invalidateQueries({ queryKey: ["terms"] });
      void navigate(`/library/${kept.id}`);
    },
    onError: () => void checked.refetch(), // somebody may have kept another meanwhile
  });
  const first = said.faults[0];
  const waits = settled !== file || checked.isFetching;
  const next = said.newest + 1;
  const overtaken = base > 0 && said.newest > base;
  const step = /^steps\.(\d+)$/.exec(chosen);
  const index = step ? Number(step[1]) : -1;
  const add = (station: string) => {
    const steps = list(doc, ["steps"]);
    const stations = stationsOf(shape);
    const before = steps.findLastIndex((s) => stations.indexOf(text(s, "station")) <= stations.indexOf(station));
    const id = another("new-step", names(doc, ["steps"], "id"));
    history.set(insert(doc, ["steps"], before + 1, { id, does: station === "sign" ? "sign" : "check", station, text: "" }));
    choose(`steps.${before + 1}`);
  };
  const toStep = (id: string) => {
    const ids = list(doc, ["steps"]).map((s) => text(s, "id"));
    const i = ids.indexOf(id) >= 0 ? ids.indexOf(id) : ids.indexOf(id.split(", ")[0]!);
    choose(i >= 0 ? `steps.${i}` : "kit"); // what is laid out is made from the kit
  };
  return (
    <EditingContext value={editing}>
      <main className={classes.editor} data-chosen={chosen !== "" || undefined} data-mode={mode}>
        <InBar>
          <Text fz={18} truncate>
            {text(doc, "title") || tr("A recipe")}
            <span className={classes.barSoft}>{begun.base ? tr(" from edition {base}", { base: begun.base }) : tr(" new")}</span>
          </Text>
        </InBar>
        <Group className={classes.modes} gap={6} wrap="nowrap">
          <SegmentedControl
            value={mode}
            onChange={(m) => setMode(m as Mode)}
            data={[
              { value: "edit", label: tr("Edit") },
              { value: "dry run", label: tr("Dry run") },
              { value: "what differs", label: tr("What differs") },
              { value: "file", label: tr("File") },
            ]}
          />
          <Group gap={6} wrap="nowrap" ml="auto">
            <Button variant="default" px={15} aria-label={tr("Undo")} disabled={current === 0} onClick={() => history.back()}>
              <span aria-hidden="true">↶</span>
            </Button>
            <Button
              variant="default"
              px={15}
              aria-label={tr("Redo")}
              disabled={current === states.length - 1}
              onClick={() => history.forward()}
            >
              <span aria-hidden="true">↷</span>
            </Button>
          </Group>
        </Group>
        {since && current === 0 && (
          <Panel kind="mind" className={classes.since}>
            <Group justify="space-between">
              <p>{tr("Your changes of {since} are here, not kept yet.", { since: dateTime(since) })}</p>
              <Button variant="default" onClick={again}>
                {tr("Begin again without them")}
              </Button>
            </Group>
          </Panel>
        )}
        {mode === "edit" && (
          <div className={classes.desk}>
            <Outline chosen={chosen} onChoose={choose} onAdd={add} />
            {/* Scrolled by key as well, so it takes the focus. */}
            {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
            <div className={classes.sheet} tabIndex={0} role="group" aria-label={tr("What is edited")} key={chosen}>
              <Button variant="subtle" className={classes.all} onClick={() => choose("")}>
                {tr("← All of it")}
              </Button>
              {index >= 0 && at(doc, ["steps", index]) !== undefined ? (
                <StepForm index={index} recipe={good.current} onChoose={choose} />
              ) : (
                <Section id={SECTIONS.some((s) => s.id === chosen) ? chosen : "joint"} recipe={good.current} />
              )}
            </div>
          </div>
        )}
        {mode === "dry run" && (
          <Page>
            {first ? (
              <p className="soft">{tr("It is gone through once nothing is wrong with it.")}</p>
            ) : (
              <DryRun file={settled} onStep={toStep} />
            )}
          </Page>
        )}
        {mode === "what differs" && (
          <Page>
            {overtaken && (
              <Panel kind="mind" title={tr("Edition {newest} was kept meanwhile", { newest: said.newest })}>
                <p>{tr("Yours was made from edition {base}. Below is what would differ from theirs, what they changed too.", { base })}</p>
                <Button variant="default" mt={8} onClick={() => setBase(said.newest)}>
                  {tr("I have looked: keep mine on theirs")}
                </Button>
              </Panel>
            )}
            <Changes
              changes={said.changes}
              none={
                said.newest > 0
                  ? tr("Nothing differs from edition {newest}.", { newest: said.newest })
                  : tr("It is a new recipe: there is no edition before it.")
              }
            />
          </Page>
        )}
        {mode === "file" && (
          <Page>
            {(torn ?? said.yaml) !== undefined && <AsFile file={torn ?? said.yaml ?? ""} check={check} onRead={(d) => history.set(d)} />}
          </Page>
        )}
        <footer className={classes.foot}>
          <div role="status" className={classes.verdict}>
            {first ? (
              <>
                <b data-sign="stop">{tr("{count} things to mend", { count: said.faults.length })}</b>
                <span className={classes.firstFault}>
                  {told(first.text)} {told(first.way)}
                </span>
              </>
            ) : (
              <b data-sign="held">{waits ? tr("Being checked…") : tr("Nothing is wrong with it")}</b>
            )}
            {overtaken && (
              <span>{tr("Edition {newest} was kept meanwhile: look at what differs before yours is kept.", { newest: said.newest })}</span>
            )}
            {said.newest > 0 && begun.base === 0 && (
              <span>{tr("“{doc}” is there already: this becomes its next edition.", { doc: text(doc, "id") })}</span>
            )}
            <Refusal error={keep.error ?? checked.error} />
          </div>
          <Group gap={10} wrap="nowrap">
            {first && placeOf(first) && (
              <Button variant="default" onClick={() => choose(placeOf(first)!)}>
                {tr("To it")}
              </Button>
            )}
            <Button variant="default" component={Link} to={`/library/${begun.base ? text(begun.doc, "id") : ""}`}>
              {tr("Leave it")}
            </Button>
            <Button
              disabled={waits || overtaken || first !== undefined || (said.newest > 0 && said.changes.length === 0)}
              loading={keep.isPending}
              onClick={() => keep.mutate()}
            >
              {tr("Keep as edition {next}", { next })}
            </Button>
          </Group>
        </footer>
      </main>
    </EditingContext>
  );
}

function Page({ children }: { children: React.ReactNode }) {
  return (
    // Scrolled by key as well, so it takes the focus.
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <div className={classes.page} tabIndex={0} role="group" aria-label={tr("The recipe")}>
      {children}
    </div>
  );
}
