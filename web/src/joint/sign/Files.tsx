import { Button } from "@mantine/core";
import { Panel } from "../../ui/Panel";
import classes from "./sign.module.css";

/** The record as files. */
export function Files({ joint, entries }: { joint: string; entries: number }) {
  return (
    <Panel title="Take it along">
      <div className={classes.files}>
        {["pdf", "csv", "json"].map((f) => (
          <Button key={f} component="a" href={`/api/joints/${joint}/record/${f}`} download variant="default" data-file={f}>
            {f.toUpperCase()}
          </Button>
        ))}
        <Button component="a" href={`/api/joints/${joint}/drawing`} download variant="default" data-file="svg">
          SVG
        </Button>
      </div>
      <p className="soft">PDF to print, CSV and JSON to read on, SVG of the drawing. {entries} entries, each chained to the one before.</p>
    </Panel>
  );
}
