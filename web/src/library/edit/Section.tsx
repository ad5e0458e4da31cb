import { useState } from "react";
import type { Recipe } from "../../api/types";
import { Glyph } from "../../drawing/Glyph";
import { Stack, type PartState } from "../../drawing/Stack";
import { useEditing } from "./context";
import { list, text } from "./document";
import { Fields, OneByOne, Things } from "./Fields";
import { SECTIONS } from "./Outline";
import { Rows } from "./Rows";
import { Texts } from "./Texts";
import classes from "./edit.module.css";
import { tr } from "../../words/words";

interface SectionProps {
  id: string;
  /** The recipe as it last held, for its drawings. */
  recipe?: Recipe;
}

/** A section of a recipe beside its steps. */
export function Section({ id, recipe: r }: SectionProps) {
  const { doc } = useEditing();
  const [chosen, setChosen] = useState(0);
  const title = SECTIONS.find((s) => s.id === id)?.title;
  const part = text(doc, "parts", chosen, "name");
  const kit = list(doc, ["tools"]).length + list(doc, ["materials"]).length;
  return (
    <>
      <h1>{title}</h1>
      {id === "joint" && <Fields path={[]} only={["title", "id", "kind", "drawing", "undoes", "again", "mistakes"]} />}
      {(id === "choices" || id === "needs") && <OneByOne path={[id]} chosen={chosen} onChoose={setChosen} />}
      {id === "parts" && (
        <>
          {r?.stack && (
            <div className={classes.drawing}>
              <Stack stack={r.stack} title={tr("Parts along their axis")} states={new Map<string, PartState>([[part, "now"]])} room={820} />
            </div>
          )}
          <OneByOne path={["parts"]} chosen={chosen} onChoose={setChosen} />
          <fieldset className={classes.thing}>
            <legend>{tr("The axis")}</legend>
            <Fields path={["axis"]} />
          </fieldset>
        </>
      )}
      {id === "kit" && (
        <>
          <p className="soft">{tr("What is laid out beside the parts, and beside the tools whose sizes follow from the bolts.")}</p>
          <Fields path={["kit"]} />
          {kit > 0 && <Fields path={[]} only={["tools", "materials"]} />}
        </>
      )}
      {id === "groups" && (
        <>
          {r && (
            <div className={classes.drawing}>
              <Glyph figure={r.figure} size={170} />
            </div>
          )}
          <OneByOne path={["groups"]} chosen={chosen} onChoose={setChosen} />
        </>
      )}
      {id === "repeats" && <Things path={["repeats"]} />}
      {id === "sheet" && <Rows />}
      {id === "texts" && <Texts />}
    </>
  );
}
