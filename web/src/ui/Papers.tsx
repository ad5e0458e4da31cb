import { Button, Group } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import { http, take } from "../api/client";
import { useMay } from "../api/queries";
import type { Paper } from "../api/types";
import { Panel } from "./Panel";
import { Refusal } from "./Refusal";
import classes from "./ui.module.css";
import { told, tr } from "../words/words";

const HangPaper = lazy(() => import("./HangPaper").then((m) => ({ default: m.HangPaper })));

/** Where makers' sheets hang: at a recipe, or at a joint, which has its recipe's too. */
export type Place = { recipe: string; joint?: string };

export function usePapers({ recipe, joint }: Place) {
  return useQuery({
    queryKey: ["papers", joint ?? recipe],
    queryFn: () => take(http.GET("/api/papers", { params: { query: joint ? { joint } : { recipe } } })),
    staleTime: 60_000,
  });
}

/** A maker's sheet, opened beside the page at the page it was hung with. */
export function PaperLink({ paper: p }: { paper: Paper }) {
  return (
    <a
      href={`/api/papers/file/${p.hash}${p.page > 1 ? `#page=${p.page}` : ""}`}
      target="_blank"
      rel="noreferrer"
      className={classes.paper}
      data-paper={p.id}
    >
      <svg viewBox="0 0 24 24" width="26" height="26" aria-hidden="true">
        {p.kind === "pdf" ? (
          <path d="M5 2 H15 L20 7 V22 H5 Z M15 2 V7 H20 M8 12 H17 M8 16 H17" />
        ) : (
          <path d="M3 5 H21 V19 H3 Z M3 16 L9 10 L21 19" />
        )}
      </svg>
      <span>
        {p.title}
        {p.page > 0 && tr(", page {page}", { page: p.page })}
      </span>
    </a>
  );
}

/** The makers' sheets of one step; what belongs to the whole joint lies ready with its kit. */
export function StepPapers({ at, step }: { at: Place; step: string }) {
  const papers = usePapers(at).data?.papers ?? [];
  const here = papers.filter((p) => (p.step === "" ? step === "kit" : p.step === step || step.startsWith(`${p.step}, `)));
  if (here.length === 0) return null;
  return (
    <Group gap="4px 18px" my={6}>
      {here.map((p) => (
        <PaperLink key={p.id} paper={p} />
      ))}
    </Group>
  );
}

/** The makers' own sheets: opened, hung and taken off. */
export function Papers({ at, words }: { at: Place; words: (step: string) => string | undefined }) {
  const queries = useQueryClient();
  const papers = usePapers(at);
  const [hanging, setHanging] = useState(false);
  const engineer = useMay("engineer");
  const planner = useMay("planner");
  const may = (of: Paper["of"]) => engineer || (planner && of === "joint");
  const fresh = () => void queries.invalidateQueries({ queryKey: ["papers"] });
  const off = useMutation({
    mutationFn: (paper: string) => take(http.DELETE("/api/papers/{paper}", { params: { path: { paper } } })),
    onSuccess: fresh,
  });
  const list = papers.data?.papers ?? [];
  const mayHang = may(at.joint ? "joint" : "recipe");
  if (list.length === 0 && !mayHang) return null;
  return (
    <Panel title={tr("The maker’s own sheet")}>
      {list.length === 0 && (
        <p className="soft">{tr("None hangs here yet: a PDF or a picture of what the maker gives for this nameplate.")}</p>
      )}
      <ul className={classes.papers}>
        {list.map((p) => (
          <li key={p.id}>
            <PaperLink paper={p} />
            <span className="soft">
              {[
                p.step && tr("at “{step}”", { step: told(words(p.step)) ?? p.step }),
                at.joint && p.of === "recipe" && tr("of its recipe"),
                tr("by {by}", { by: p.by }),
              ]
                .filter(Boolean)
                .join(", ")}
            </span>
            {may(p.of) && (
              <button
                type="button"
                className="link"
                onClick={() => off.mutate(p.id)}
                aria-label={tr("Take off: {title}", { title: p.title })}
              >
                {tr("Take off")}
              </button>
            )}
          </li>
        ))}
      </ul>
      <Refusal error={off.error} />
      {mayHang && (
        <Button variant="default" mt={8} onClick={() => setHanging(true)}>
          {tr("Hang a sheet here")}
        </Button>
      )}
      {hanging && (
        <Suspense>
          <HangPaper
            at={at}
            onClose={() => setHanging(false)}
            onHung={() => {
              fresh();
              setHanging(false);
            }}
          />
        </Suspense>
      )}
    </Panel>
  );
}
