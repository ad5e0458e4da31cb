import { useDebouncedValue } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { RecipeChecked } from "../../api/types";
import type { Doc } from "./document";
import classes from "./edit.module.css";
import { told, tr } from "../../words/words";

interface AsFileProps {
  file: string;
  check: (file: string) => Promise<RecipeChecked>;
  /** The file as it was read, each time it can be. */
  onRead: (doc: Doc) => void;
}

/** The recipe as its file, YAML or JSON. What is wrong is said with its line; what can be read is what is edited. */
export function AsFile({ file, check, onRead }: AsFileProps) {
  const [typed, setTyped] = useState(file);
  const [settled] = useDebouncedValue(typed, 300);
  const checked = useQuery({ queryKey: ["recipe-file", settled], queryFn: () => check(settled), gcTime: 0, retry: false });
  const c = checked.data;
  useEffect(() => {
    if (c?.document && settled !== file) onRead(c.document as Doc);
    // Once for each answer: what is read goes one way.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [c]);
  return (
    <div className={classes.asFile}>
      <textarea
        className={`mono field ${classes.text}`}
        value={typed}
        onChange={(e) => setTyped(e.currentTarget.value)}
        spellCheck={false}
        aria-label={tr("Recipe as YAML or JSON")}
        name="file"
      />
      {c && c.faults.length > 0 && (
        <ol className={classes.faults} role="alert">
          {c.faults.map((f) => (
            <li key={f.field + f.text}>
              {f.line > 0 && <b>{tr("Line {line}:", { line: f.line })} </b>}
              {told(f.text)} <span className="soft">{told(f.way)}</span>
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}
