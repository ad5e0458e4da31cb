import { Button } from "@mantine/core";
import { faultsAt, useEditing } from "./context";
import { list, text, type Path } from "./document";
import { stationsOf } from "./shape";
import classes from "./edit.module.css";
import { told, tr } from "../../words/words";

/** What a recipe is made of, beside its steps. */
export const SECTIONS: { id: string; title: string; paths: Path[]; count?: Path }[] = [
  {
    id: "joint",
    title: tr("The joint"),
    paths: [["title"], ["id"], ["kind"], ["drawing"], ["undoes"], ["again"], ["mistakes"], ["edition"]],
  },
  { id: "choices", title: tr("Variants"), paths: [["choices"]], count: ["choices"] },
  { id: "needs", title: tr("Values of nameplate and sheet"), paths: [["needs"]], count: ["needs"] },
  { id: "parts", title: tr("Parts along the axis"), paths: [["axis"], ["parts"]], count: ["parts"] },
  { id: "kit", title: tr("Kit"), paths: [["kit"], ["tools"], ["materials"]] },
  { id: "groups", title: tr("Bolts"), paths: [["groups"]], count: ["groups"] },
  { id: "repeats", title: tr("What repeats"), paths: [["repeats"]], count: ["repeats"] },
  { id: "sheet", title: tr("The maker’s sheet"), paths: [["sheet"]], count: ["sheet", "rows"] },
  { id: "texts", title: tr("In other languages"), paths: [["texts"]] },
];

interface OutlineProps {
  chosen: string;
  onChoose: (id: string) => void;
  onAdd: (station: string) => void;
}

/** Everything in a recipe, in its order: its sections, then its steps at their stations. What is wrong bears a sign. */
export function Outline({ chosen, onChoose, onAdd }: OutlineProps) {
  const { doc, faults, shape } = useEditing();
  const stations = stationsOf(shape);
  const steps = list(doc, ["steps"]).map((s, i) => ({ s, i }));
  return (
    <nav className={classes.outline} aria-label={tr("What the recipe is made of")}>
      {SECTIONS.map((x) => {
        const n = x.count ? list(doc, x.count).length : 0;
        return (
          <Entry
            key={x.id}
            on={chosen === x.id}
            wrong={x.paths.some((p) => faultsAt(faults, p).length > 0)}
            onClick={() => onChoose(x.id)}
            says={x.title}
            count={n}
          />
        );
      })}
      {stations.map((station) => (
        <section key={station}>
          <h2>{told(station)}</h2>
          {steps
            .filter(({ s }) => text(s, "station") === station)
            .map(({ s, i }) => (
              <Entry
                key={i}
                on={chosen === `steps.${i}`}
                wrong={faultsAt(faults, ["steps", i]).length > 0}
                onClick={() => onChoose(`steps.${i}`)}
                does={told(text(s, "does"))}
                says={text(s, "text") || text(s, "id")}
              />
            ))}
          <Button variant="subtle" fullWidth justify="flex-start" className={classes.add} onClick={() => onAdd(station)}>
            {tr("+ Add a step to {station}", { station: told(station) })}
          </Button>
        </section>
      ))}
      {steps
        .filter(({ s }) => !stations.includes(text(s, "station")))
        .map(({ s, i }) => (
          <Entry
            key={i}
            on={chosen === `steps.${i}`}
            wrong
            onClick={() => onChoose(`steps.${i}`)}
            does={told(text(s, "does"))}
            says={text(s, "text") || text(s, "id")}
          />
        ))}
    </nav>
  );
}

interface EntryProps {
  on: boolean;
  wrong: boolean;
  /** Of a step: its kind. */
  does?: string;
  says: string;
  /** Of a section: how many things are in it. */
  count?: number;
  onClick: () => void;
}

function Entry({ on, wrong, does, says, count, onClick }: EntryProps) {
  return (
    <button
      type="button"
      className={classes.entry}
      ref={on ? intoView : undefined}
      aria-current={on ? "true" : undefined}
      data-wrong={wrong || undefined}
      data-section={does === undefined || undefined}
      onClick={onClick}
    >
      {does !== undefined && <span className={classes.does}>{does}</span>}
      <span className={classes.says}>{says}</span>
      {count ? <span className={classes.does}>{count}</span> : null}
      {wrong && (
        <span className={classes.flaw} role="img" aria-label={tr("something is wrong")}>
          !
        </span>
      )}
    </button>
  );
}

function intoView(entry: HTMLElement | null) {
  entry?.scrollIntoView({ block: "nearest" });
}
