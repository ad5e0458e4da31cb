import { Button, Group, NativeSelect, SimpleGrid, Switch, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../api/client";
import type { SiteRoom } from "../api/types";
import { Dialog } from "../ui/Form";
import { Panel } from "../ui/Panel";
import { day } from "../ui/format";
import { Refusal } from "../ui/Refusal";
import { useFreshSite } from "./fresh";
import classes from "./site.module.css";
import { Say } from "../words/Say";
import { tr } from "../words/words";

type Words = SiteRoom["site"];

/** The outages, one of which is worked in now. */
export function Outage({ site, outages }: { site: Words; outages: SiteRoom["outages"] }) {
  const [open, setOpen] = useState<Words>();
  const others = outages.filter((o) => o.outage !== site.outage);
  return (
    <Panel title={tr("Outage")}>
      <Group justify="space-between" wrap="nowrap">
        <p>
          <Say
            of="{outage}, {count} days from {begins}"
            with={{ outage: <b>{site.outage}</b>, count: site.days, begins: day(site.begins) }}
          />
        </p>
        <Button variant="default" onClick={() => setOpen(site)} aria-label={tr("Change the outage")}>
          {tr("Change")}
        </Button>
      </Group>
      {others.length > 0 && (
        <ul className={classes.areas}>
          {others.map((o) => (
            <li key={o.outage}>
              <button
                type="button"
                className="pick"
                onClick={() => setOpen({ ...site, ...o })}
                aria-label={tr("Work in {outage}", { outage: o.outage })}
              >
                {o.outage}
                {", "}
                {day(o.begins)}
              </button>
            </li>
          ))}
        </ul>
      )}
      {open && <OutageDialog site={open} onClose={() => setOpen(undefined)} />}
    </Panel>
  );
}

const torques = ["N·m", "ft·lbf", "in·lbf", "kgf·m", "cN·m"];

/** What the site goes by: the unit of its torques, its shifts, a word with every signature. */
export function Rules({ site }: { site: Words }) {
  const [open, setOpen] = useState(false);
  const shifts = site.shifts ?? [];
  return (
    <Panel title={tr("What it goes by")}>
      <Group justify="space-between" wrap="nowrap" align="start">
        <div>
          <p>{tr("Torques are typed in {torqueUnit}.", { torqueUnit: site.torqueUnit })}</p>
          <p>{site.sayWhy ? tr("A word goes with every signature.") : tr("A word goes with a signature where something is outside.")}</p>
          <p>
            {shifts.length > 0
              ? tr("Shifts: {shifts}.", { shifts: shifts.map((x) => tr("{x} from {begins}", { x: x.name, begins: x.begins })).join(", ") })
              : tr("No shifts.")}
          </p>
        </div>
        <Button variant="default" onClick={() => setOpen(true)} aria-label={tr("Change what it goes by")} data-rules>
          {tr("Change")}
        </Button>
      </Group>
      {open && <RulesDialog site={site} onClose={() => setOpen(false)} />}
    </Panel>
  );
}

function RulesDialog({ site, onClose }: { site: Words; onClose: () => void }) {
  const fresh = useFreshSite();
  const [torqueUnit, setTorqueUnit] = useInputState(site.torqueUnit);
  const [sayWhy, setSayWhy] = useState(site.sayWhy ?? false);
  const [shifts, setShifts] = useState([...(site.shifts ?? []), { name: "", begins: "" }]);
  const change = useMutation({
    mutationFn: () =>
      take(
        http.PUT("/api/site", { body: { ...site, torqueUnit, sayWhy, shifts: shifts.filter((x) => x.name.trim() || x.begins.trim()) } }),
      ),
    onSuccess: () => {
      fresh();
      onClose();
    },
  });
  const set = (i: number, to: Partial<(typeof shifts)[number]>) => {
    const next = shifts.map((x, k) => (k === i ? { ...x, ...to } : x));
    setShifts(next.at(-1)?.name ? [...next, { name: "", begins: "" }] : next);
  };
  return (
    <Dialog
      title={tr("What the site goes by")}
      act={tr("Change it")}
      busy={change.isPending}
      onClose={onClose}
      onAct={() => change.mutate()}
    >
      <NativeSelect label={tr("Torques are typed in")} name="torqueUnit" data={torques} value={torqueUnit} onChange={setTorqueUnit} />
      <Switch
        size="lg"
        label={tr("A word goes with every signature")}
        checked={sayWhy}
        onChange={(e) => setSayWhy(e.currentTarget.checked)}
      />
      {shifts.map((x, i) => (
        <SimpleGrid cols={2} spacing={12} key={i}>
          <TextInput
            label={i === 0 ? tr("Shift") : undefined}
            aria-label={tr("Shift {i}", { i: i + 1 })}
            name={`shift${i + 1}`}
            placeholder={tr("Day shift")}
            value={x.name}
            maxLength={80}
            onChange={(e) => set(i, { name: e.currentTarget.value })}
          />
          <TextInput
            label={i === 0 ? tr("Begins") : undefined}
            aria-label={tr("Shift {i} begins", { i: i + 1 })}
            name={`begins${i + 1}`}
            type="time"
            value={x.begins}
            onChange={(e) => set(i, { begins: e.currentTarget.value })}
          />
        </SimpleGrid>
      ))}
      <Refusal error={change.error} />
    </Dialog>
  );
}

function OutageDialog({ site, onClose }: { site: SiteRoom["site"]; onClose: () => void }) {
  const fresh = useFreshSite();
  const [name, setName] = useInputState(site.name);
  const [outage, setOutage] = useInputState(site.outage);
  const [begins, setBegins] = useInputState(site.begins);
  const [days, setDays] = useInputState(String(site.days));
  const change = useMutation({
    mutationFn: () => take(http.PUT("/api/site", { body: { ...site, name, outage, begins, days: Number(days) } })),
    onSuccess: () => {
      fresh();
      onClose();
    },
  });
  return (
    <Dialog title={tr("Site and outage")} act={tr("Change it")} busy={change.isPending} onClose={onClose} onAct={() => change.mutate()}>
      <TextInput label={tr("Name of the site")} name="site" value={name} onChange={setName} maxLength={80} />
      <TextInput label={tr("Outage")} name="outage" value={outage} onChange={setOutage} maxLength={80} data-autofocus />
      <SimpleGrid cols={2} spacing={12}>
        <TextInput label={tr("First day")} name="begins" type="date" value={begins} onChange={setBegins} />
        <TextInput label={tr("Days")} name="days" inputMode="numeric" value={days} onChange={setDays} />
      </SimpleGrid>
      <Refusal error={change.error} />
    </Dialog>
  );
}

/** Where the joints are. */
export function Areas({ areas }: { areas: SiteRoom["areas"] }) {
  const [open, setOpen] = useState<SiteRoom["areas"][number] | "new">();
  return (
    <Panel title={tr("Areas")}>
      <ul className={classes.areas}>
        {areas.map((a) => (
          <li key={a.id}>
            <button type="button" className="pick" onClick={() => setOpen(a)} aria-label={tr("Rename {a}", { a: a.name })}>
              {a.name}
            </button>
          </li>
        ))}
        <li>
          <Button variant="default" onClick={() => setOpen("new")}>
            {tr("Add an area")}
          </Button>
        </li>
      </ul>
      {open && <AreaDialog area={open === "new" ? undefined : open} onClose={() => setOpen(undefined)} />}
    </Panel>
  );
}

function AreaDialog({ area, onClose }: { area?: SiteRoom["areas"][number]; onClose: () => void }) {
  const fresh = useFreshSite();
  const [name, setName] = useInputState(area?.name ?? "");
  const send = useMutation({
    mutationFn: () =>
      area
        ? take(http.PUT("/api/site/areas/{area}", { params: { path: { area: area.id } }, body: { name } }))
        : take(http.POST("/api/site/areas", { body: { name } })),
    onSuccess: () => {
      fresh();
      onClose();
    },
  });
  return (
    <Dialog
      title={area ? tr("Rename {area}", { area: area.name }) : tr("Another area")}
      act={area ? tr("Rename it") : tr("Add it")}
      ready={name.trim() !== "" && name.trim() !== area?.name}
      busy={send.isPending}
      onClose={onClose}
      onAct={() => send.mutate()}
    >
      <TextInput label={tr("Name")} name="area" value={name} onChange={setName} maxLength={80} data-autofocus />
      <Refusal error={send.error} />
    </Dialog>
  );
}
