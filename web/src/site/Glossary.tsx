import { Button, Group } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { http, take } from "../api/client";
import type { SiteRoom } from "../api/types";
import { ChooseFile } from "../ui/ChooseFile";
import { Panel } from "../ui/Panel";
import { Refusal } from "../ui/Refusal";
import { tr } from "../words/words";
import { useFreshSite } from "./fresh";
import classes from "./site.module.css";

/** What the site calls things of the trade, in each language, where that is not what the program calls them. */
export function Glossary({ terms }: { terms: SiteRoom["terms"] }) {
  const fresh = useFreshSite();
  const queries = useQueryClient();
  const send = useMutation({
    mutationFn: async (f: File) => take(http.PUT("/api/site/glossary", { body: { file: await f.text() } })),
    onSuccess: () => {
      fresh();
      void queries.invalidateQueries({ queryKey: ["terms"] });
    },
  });
  return (
    <Panel title={tr("Words of the trade")}>
      {terms.length === 0 && <p className="soft">{tr("As Dynacor says them. The site can say them its own way, in each language.")}</p>}
      <dl className={classes.terms}>
        {terms.map((t) => (
          <div key={t.language + t.term} data-term={t.term}>
            <dt>
              <span lang="en">{t.term}</span> <span className="soft">{t.language.toUpperCase()}</span>
            </dt>
            <dd lang={t.language}>
              <s className="soft">{t.is[0]}</s> <b>{t.own[0]}</b>
            </dd>
          </div>
        ))}
      </dl>
      <Group gap={10} mt={10}>
        <Button component="a" href="/api/site/glossary" download="glossary.csv" variant="default">
          {tr("Take them out, CSV")}
        </Button>
        <ChooseFile
          label={tr("Words of the trade, as CSV")}
          name="glossary"
          accept=".csv,text/csv"
          variant="default"
          loading={send.isPending}
          onFile={(f) => send.mutate(f)}
        >
          {tr("Bring them in")}
        </ChooseFile>
      </Group>
      <Refusal error={send.error} />
    </Panel>
  );
}
