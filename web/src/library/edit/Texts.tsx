import { Button, Group, SegmentedControl, Textarea } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../../api/client";
import type { Language } from "../../api/types";
import { Refusal } from "../../ui/Refusal";
import { languageOf, LOCALES, spoken } from "../../words/locale";
import { told, tr } from "../../words/words";
import { faultsAt, useEditing } from "./context";
import { at, put, text, type Doc } from "./document";
import classes from "./edit.module.css";

/** The languages that a recipe can be said in, each in its own words. */
const SPOKEN = [...new Set(LOCALES.map((l) => languageOf(l.id)))].filter(spoken).map((id) => ({
  value: id,
  label: LOCALES.find((l) => languageOf(l.id) === id)!.name.split(",")[0]!,
}));

/** What the recipe says in other languages. Dynacor's own words are offered; what neither says is shown in English, marked so. */
export function Texts() {
  const { doc, change, faults } = useEditing();
  const [language, setLanguage] = useState<Language>(SPOKEN[0]!.value);
  const [all, setAll] = useState(false);
  // What it says in other languages does not change what it says in English.
  const { texts: _, ...english } = doc;
  const [file] = useDebouncedValue(JSON.stringify(english), 200);
  const prose = useQuery({
    queryKey: ["recipe-prose", file],
    queryFn: () => take(http.POST("/api/library/prose", { body: { file } })),
    placeholderData: keepPreviousData,
    gcTime: 0,
    retry: false,
  });
  const own = (at(doc, ["texts", language]) ?? {}) as Doc;
  const set = (of: string, says: string | undefined) =>
    change((d) => {
      const next = put(d, ["texts", language, of], says === "" ? undefined : says);
      if (Object.keys((at(next, ["texts", language]) ?? {}) as Doc).length > 0) return next;
      const without = put(next, ["texts", language], undefined);
      return Object.keys((at(without, ["texts"]) ?? {}) as Doc).length > 0 ? without : put(without, ["texts"], undefined);
    });
  const said = prose.data?.texts ?? [];
  const lacking = said.filter((t) => !t.says[language] && !text(own, t.text));
  const shown = all ? said : said.filter((t) => !t.says[language] || t.text in own);
  const stale = prose.data ? Object.keys(own).filter((key) => !said.some((t) => t.text === key)) : [];
  return (
    <>
      <p className="soft">{tr("What neither these words nor Dynacor’s own say is shown in English, and marked so.")}</p>
      <Group gap={12} my={10}>
        <SegmentedControl
          aria-label={tr("Language")}
          data={SPOKEN}
          value={language}
          onChange={(l) => setLanguage(SPOKEN.find((x) => x.value === l)!.value)}
        />
        <SegmentedControl
          aria-label={tr("Which texts")}
          data={[
            { value: "own", label: tr("not in Dynacor’s words") },
            { value: "all", label: tr("all of them") },
          ]}
          value={all ? "all" : "own"}
          onChange={(v) => setAll(v === "all")}
        />
      </Group>
      <p data-lacking={lacking.length}>
        {lacking.length > 0 ? tr("{count} texts stay English.", { count: lacking.length }) : prose.data && tr("Every text is said.")}
      </p>
      {faultsAt(faults, ["texts", language]).map((f) => (
        <p key={f.text} role="alert" className={classes.wrongText}>
          {told(f.text)} {told(f.way)}
        </p>
      ))}
      <Refusal error={prose.error} />
      <ul className={classes.texts}>
        {stale.map((key) => (
          <li key={key}>
            <span>
              <s lang="en">{key}</s> <span className="soft">{tr("is not in the recipe any more")}</span>
            </span>
            <Group gap={10} wrap="nowrap" justify="space-between">
              <span lang={language}>{text(own, key)}</span>
              <Button variant="default" color="stop" onClick={() => set(key, undefined)}>
                {tr("Take it out")}
              </Button>
            </Group>
          </li>
        ))}
        {shown.map((t) => (
          <li key={t.text}>
            <span lang="en">{t.text}</span>
            <Textarea
              lang={language}
              aria-label={t.text}
              autosize
              minRows={1}
              maxLength={2000}
              value={text(own, t.text)}
              placeholder={t.says[language] ?? ""}
              onChange={(e) => set(t.text, e.currentTarget.value)}
            />
          </li>
        ))}
      </ul>
    </>
  );
}
