import { Anchor, Button, FileInput, Group, Modal } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../api/client";
import { inBase64 } from "../api/files";
import { Refusal } from "../ui/Refusal";
import { useFreshCrib } from "./queries";
import classes from "./crib.module.css";
import { told, tr } from "../words/words";

const outcome = { new: "new", changed: "changed", same: tr("as it is"), wrong: tr("left out") } as const;

/** All tools as a list, out and in: what is wrong with a row is said before anything is taken. */
export function ImportTools({ onClose }: { onClose: () => void }) {
  const [file, setFile] = useState<File | null>(null);
  const fresh = useFreshCrib();
  const read = useMutation({
    mutationFn: async ({ of, take: taking }: { of: File; take: boolean }) =>
      take(http.POST("/api/crib/import", { body: { file: await inBase64(of), take: taking } })),
    onSuccess: (_, { take: taking }) => taking && fresh(),
  });
  const r = read.data;
  const good = r?.rows.filter((x) => x.what === "new" || x.what === "changed").length ?? 0;
  const taken = read.variables?.take && r;
  return (
    <Modal opened onClose={onClose} title={<b>{tr("Lists of tools")}</b>} size={780}>
      <Group gap={18} mb={12}>
        <span>{tr("All tools, as they can be read in again:")}</span>
        <Anchor href="/api/crib/list/csv" className="link">
          {tr("CSV")}
        </Anchor>
        <Anchor href="/api/crib/list/xlsx" className="link">
          {tr("XLSX")}
        </Anchor>
        <Anchor href="/api/crib/labels" className="link" ml="auto">
          {tr("Labels with a code, to print")}
        </Anchor>
      </Group>
      <FileInput
        size="md"
        label={tr("Read a list in")}
        description={tr("CSV or XLSX, one tool a line. The headings are those of the list above; a tag that is there already is changed.")}
        accept=".csv,.xlsx"
        placeholder={tr("Choose the file")}
        value={file}
        fileInputProps={{ "aria-label": tr("The list’s file"), name: "list" }}
        onChange={(f) => {
          setFile(f);
          if (f) read.mutate({ of: f, take: false });
          else read.reset();
        }}
      />
      <Refusal error={read.error} />
      {r && (
        <>
          <p role="status" style={{ margin: "12px 0 6px" }}>
            {taken ? <b>{tr("{taken} taken.", { taken: r.taken })}</b> : <b>{tr("{good} to take", { good })}</b>}{" "}
            {tr("{out} left out of {all} rows.", { out: r.rows.filter((x) => x.what === "wrong").length, all: r.rows.length })}
          </p>
          <ul className={`lines ${classes.rows}`}>
            {r.rows
              .filter((x) => x.what !== "same")
              .map((x) => (
                <li key={x.line} data-line={x.line} style={{ padding: "6px 0" }}>
                  <span className="soft">{tr("line {line}", { line: x.line })}</span> <b className="mono">{x.tag || "–"}</b>{" "}
                  {outcome[x.what]}
                  {x.wrong.map((w, i) => (
                    <p key={i} className={classes.off}>
                      {w.column}
                      {": "}
                      {told(w.text)}
                    </p>
                  ))}
                </li>
              ))}
          </ul>
          {!taken && (
            <Group justify="flex-end" mt={12}>
              <Button variant="default" onClick={onClose}>
                {tr("Not now")}
              </Button>
              <Button disabled={good === 0} loading={read.isPending} onClick={() => read.mutate({ of: file!, take: true })}>
                {tr("Take {good}", { good })}
              </Button>
            </Group>
          )}
        </>
      )}
    </Modal>
  );
}
