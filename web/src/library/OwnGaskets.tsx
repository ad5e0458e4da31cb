import { Button, NativeSelect, SimpleGrid, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../api/client";
import type { Own } from "../api/types";
import { useFreshOwn, useMay, useOwn } from "../api/queries";
import { dateTime, number, percent, readNumber } from "../ui/format";
import { Dialog } from "../ui/Form";
import { Refusal } from "../ui/Refusal";
import { Kept, Page, Withdraw } from "./OwnPage";
import styles from "./own.module.css";
import { told, tr } from "../words/words";

const FIGURES = [
  { key: "aim", label: tr("Aim") },
  { key: "seat", label: tr("Seats from") },
  { key: "service", label: tr("Tight in service from") },
  { key: "most", label: tr("Crushed at") },
] as const;

/** Gaskets by their makers' sheets, and the starting values of their families. */
export function OwnGaskets() {
  const own = useOwn();
  const engineer = useMay("engineer");
  const [entering, setEntering] = useState(false);
  const o = own.data;
  if (!o) return own.isError ? <Refusal error={own.error} /> : null;
  return (
    <Page
      title={tr("Gaskets")}
      words={
        tr("What seats it, what to aim at, what crushes it, in MPa. ") +
        tr("A family’s figures are starting values of ours; the maker’s sheet for this one wins.")
      }
      act={engineer && <Button onClick={() => setEntering(true)}>{tr("Enter your own")}</Button>}
    >
      <h2 className={styles.head}>{tr("By their makers’ sheets")}</h2>
      {o.gaskets.length === 0 && <p>{tr("None yet.")}</p>}
      <ul className={styles.list}>
        {o.gaskets.map((g) => (
          <li key={g.given.name}>
            <div className={styles.item}>
              <span>
                {g.kept.usable ? <b>{g.given.name}</b> : <s>{g.given.name}</s>}
                <small>
                  {told(g.given.family)}
                  {", "}
                  {g.given.source}
                  {g.kept.withdrawn && tr("; withdrawn: {withdrawn}", { withdrawn: g.kept.withdrawn })}
                </small>
                <Kept kept={g.kept} when={dateTime(g.kept.at)} />
                {g.kept.usable && <Withdraw kind="gasket" name={g.given.name} />}
              </span>
              <Stresses given={g.figures} own />
            </div>
          </li>
        ))}
      </ul>
      <h2 className={styles.head}>{tr("Families, until you have the maker’s")}</h2>
      <ul className={styles.list}>
        {o.families.map((f) => (
          <li key={f.name}>
            <div className={styles.item}>
              <span>{told(f.name)}</span>
              <Stresses given={f} />
            </div>
          </li>
        ))}
      </ul>
      {entering && (
        <GasketDialog families={o.families.map((f) => ({ value: f.family, label: told(f.name) }))} onClose={() => setEntering(false)} />
      )}
    </Page>
  );
}

type Given = Own["families"][number];

/** What a gasket needs and bears, on one scale of stress that grows tenfold from mark to mark. */
function Stresses({ given: g, own }: { given: Given; own?: boolean }) {
  const at = (key: (typeof FIGURES)[number]["key"]) => g[key] || 1;
  const x = (v: number) => `${Math.max(0, Math.min(100, (Math.log10(v) / Math.log10(1500)) * 100))}%`;
  return (
    <span className={styles.band}>
      <span className={styles.track} aria-hidden>
        <u style={{ width: x(at("seat")) }} />
        <i style={{ left: x(at("seat")), width: `calc(${x(at("most"))} - ${x(at("seat"))})` }} data-own={own || undefined} />
        <b style={{ left: x(at("aim")) }} />
      </span>
      <span>
        <span className="mono">
          {number(at("seat"))}
          {" · "}
          <b>{number(at("aim"))}</b>
          {" · "}
          {number(at("most"))}
          {" MPa"}
        </span>
        <small>{tr("tight in service from {at} MPa; {kept} % left", { at: number(at("service")), kept: percent(g.kept || 0) })}</small>
      </span>
    </span>
  );
}

function GasketDialog({ families, onClose }: { families: { value: string; label: string }[]; onClose: () => void }) {
  const fresh = useFreshOwn();
  const [name, setName] = useInputState("");
  const [source, setSource] = useInputState("");
  const [family, setFamily] = useState(families[0]!.value);
  const [figures, setFigures] = useState<Record<string, string>>({});
  const [kept, setKept] = useInputState("");
  const value = (text = "") => (text.trim() === "" ? undefined : readNumber(text));
  const keep = useMutation({
    mutationFn: () => {
      const left = value(kept);
      return take(
        http.POST("/api/own/gaskets", {
          body: {
            name,
            family,
            source,
            ...Object.fromEntries(FIGURES.map((f) => [f.key, value(figures[f.key])])),
            ...(left === undefined ? {} : { kept: left / 100 }),
          },
        }),
      );
    },
    onSuccess: () => {
      fresh();
      onClose();
    },
  });
  return (
    <Dialog
      title={tr("A gasket by its maker’s sheet")}
      size={720}
      act={tr("Keep it")}
      ready={name.trim() !== "" && source.trim() !== ""}
      busy={keep.isPending}
      onClose={onClose}
      onAct={() => keep.mutate()}
    >
      <p className="soft">{tr("What you leave out is its family’s.")}</p>
      <SimpleGrid cols={{ base: 1, sm: 2 }} spacing={12}>
        <TextInput
          label={tr("Name, as on its box")}
          name="name"
          value={name}
          onChange={setName}
          maxLength={80}
          autoComplete="off"
          data-autofocus
        />
        <NativeSelect label={tr("Family")} data={families} value={family} onChange={(e) => setFamily(e.currentTarget.value)} size="md" />
        {FIGURES.map((f) => (
          <TextInput
            key={f.key}
            label={`${f.label}, MPa`}
            name={f.key}
            inputMode="decimal"
            value={figures[f.key] ?? ""}
            onChange={(e) => setFigures({ ...figures, [f.key]: e.currentTarget.value })}
            autoComplete="off"
          />
        ))}
        <TextInput
          label={tr("Load left once it has settled, %")}
          name="kept"
          inputMode="decimal"
          value={kept}
          onChange={setKept}
          autoComplete="off"
        />
        <TextInput
          label={tr("The maker’s sheet, and its date")}
          name="source"
          value={source}
          onChange={setSource}
          maxLength={200}
          autoComplete="off"
        />
      </SimpleGrid>
      <Refusal error={keep.error} />
    </Dialog>
  );
}
