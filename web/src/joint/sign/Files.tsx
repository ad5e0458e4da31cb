import { Button, SimpleGrid } from "@mantine/core";
import { Panel } from "../../ui/Panel";
import { tr } from "../../words/words";

/** The record as files. */
export function Files({ joint, entries }: { joint: string; entries: number }) {
  return (
    <Panel title={tr("Files")}>
      <SimpleGrid cols={{ base: 2, xs: 4 }} spacing={10} mb={10}>
        {["pdf", "csv", "json"].map((f) => (
          <Button key={f} component="a" href={`/api/joints/${joint}/record/${f}`} download variant="default" data-file={f}>
            {f.toUpperCase()}
          </Button>
        ))}
        <Button component="a" href={`/api/joints/${joint}/drawing`} download variant="default" data-file="svg">
          {tr("SVG")}
        </Button>
      </SimpleGrid>
      <p className="soft">
        {tr("PDF to print, CSV and JSON to read on, SVG of the drawing. {count} entries, each chained to the one before.", {
          count: entries,
        })}
      </p>
    </Panel>
  );
}
