import { Button, Group, SimpleGrid, Stack, TextInput } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../api/client";
import type { Role, SitePerson } from "../api/types";
import { Dialog } from "../ui/Form";
import { Refusal } from "../ui/Refusal";
import { useFreshSite } from "./fresh";
import classes from "./site.module.css";
import { told, tr } from "../words/words";

interface PersonProps {
  /** Who; left out for somebody new. */
  person?: SitePerson;
  roles: Role[];
  onClose: () => void;
  onPin: (name: string, pin: string) => void;
}

/** Somebody of the site: what they are called, may do, and are qualified for. */
export function PersonDialog({ person: p, roles, onClose, onPin }: PersonProps) {
  const fresh = useFreshSite();
  const [login, setLogin] = useInputState(p?.login ?? "");
  const [name, setName] = useInputState(p?.name ?? "");
  const [initials, setInitials] = useInputState(p?.initials ?? "");
  const [has, setHas] = useState<Role[]>(p?.roles ?? []);
  const [may, setMay] = useState<SitePerson["qualifications"]>(p?.qualifications ?? []);
  const done = () => {
    fresh();
    onClose();
  };
  const qualifications = may.filter((q) => q.name.trim() !== "");
  const send = useMutation({
    mutationFn: async () => {
      if (p) {
        await take(
          http.PUT("/api/site/people/{person}", {
            params: { path: { person: p.id } },
            body: { name, initials, roles: has, qualifications: qualifications.map((q) => (q.until ? q : { name: q.name })) },
          }),
        );
        return done();
      }
      const given = await take(
        http.POST("/api/site/people", {
          body: { login, name, roles: has, qualifications: qualifications.map((q) => q.name), ...(initials && { initials }) },
        }),
      );
      fresh();
      onPin(name, given.pin);
    },
  });
  return (
    <Dialog
      title={p ? p.name : tr("Somebody new")}
      size={760}
      act={p ? tr("Keep it") : tr("Enter them")}
      ready={name.trim() !== "" && login.trim() !== "" && has.length > 0}
      busy={send.isPending}
      onClose={onClose}
      onAct={() => send.mutate()}
    >
      <SimpleGrid cols={{ base: 1, sm: 3 }} spacing={12}>
        <TextInput label={tr("Name")} name="name" value={name} onChange={setName} maxLength={60} autoComplete="off" data-autofocus />
        <TextInput
          label={tr("Signs in as")}
          name="login"
          value={login}
          onChange={setLogin}
          maxLength={40}
          readOnly={p !== undefined}
          autoComplete="off"
          autoCapitalize="none"
        />
        <TextInput
          label={tr("Initials, if not the name’s")}
          name="initials"
          value={initials}
          onChange={setInitials}
          maxLength={40}
          autoComplete="off"
        />
      </SimpleGrid>
      <fieldset className={classes.choices}>
        <legend>{tr("May work as")}</legend>
        {roles.map((r) => (
          <button
            key={r}
            type="button"
            className="pick"
            aria-pressed={has.includes(r)}
            onClick={() => setHas(has.includes(r) ? has.filter((x) => x !== r) : [...has, r])}
          >
            {told(r)}
          </button>
        ))}
      </fieldset>
      <Stack gap={8}>
        <span>{tr("Qualified for what recipes ask beside a role, e.g. rigger or pressure person")}</span>
        {may.map((q, i) => (
          // The rows have no identity but their place.
          // oxlint-disable-next-line react/no-array-index-key
          <Group key={i} gap={10} align="end" wrap="nowrap">
            <TextInput
              aria-label={tr("Qualification {i}", { i: i + 1 })}
              value={q.name}
              onChange={(e) => setMay(may.with(i, { ...q, name: e.currentTarget.value }))}
              maxLength={40}
              style={{ flex: 1 }}
            />
            {p && (
              <TextInput
                aria-label={tr("Qualification {i}, last day", { i: i + 1 })}
                type="date"
                value={q.until ?? ""}
                onChange={(e) => setMay(may.with(i, { name: q.name, ...(e.currentTarget.value && { until: e.currentTarget.value }) }))}
              />
            )}
            <Button
              variant="default"
              onClick={() => setMay(may.filter((_, n) => n !== i))}
              aria-label={tr("Take {q} away", { q: told(q.name) || tr("it") })}
            >
              ✕
            </Button>
          </Group>
        ))}
        <Button variant="default" onClick={() => setMay([...may, { name: "" }])} style={{ justifySelf: "start" }}>
          {tr("Another qualification")}
        </Button>
      </Stack>
      <Refusal error={send.error} />
      {p && <Acts person={p} onDone={done} onPin={onPin} />}
    </Dialog>
  );
}

/** What is done to somebody at once: their PIN, their sessions, whether they may sign in. */
function Acts({ person: p, onDone, onPin }: { person: SitePerson; onDone: () => void; onPin: PersonProps["onPin"] }) {
  const fresh = useFreshSite();
  const params = { path: { person: p.id } };
  const pin = useMutation({
    mutationFn: () => take(http.POST("/api/site/people/{person}/pin", { params })),
    onSuccess: (given) => {
      fresh();
      onPin(p.name, given.pin);
    },
  });
  const active = useMutation({
    mutationFn: () => take(http.PUT("/api/site/people/{person}", { params, body: { active: !p.active } })),
    onSuccess: onDone,
  });
  const sessions = useMutation({
    mutationFn: () => take(http.DELETE("/api/site/people/{person}/sessions", { params })),
    onSuccess: onDone,
  });
  const lockout = useMutation({
    mutationFn: () => take(http.DELETE("/api/site/people/{person}/lockout", { params })),
    onSuccess: onDone,
  });
  return (
    <div className={classes.acts}>
      <Group gap={10}>
        <Button variant="default" loading={pin.isPending} onClick={() => pin.mutate()}>
          {tr("A PIN for one time")}
        </Button>
        {p.sessions > 0 && (
          <Button variant="default" loading={sessions.isPending} onClick={() => sessions.mutate()}>
            {tr("Sign them out")}
          </Button>
        )}
        {p.locked && (
          <Button variant="default" loading={lockout.isPending} onClick={() => lockout.mutate()}>
            {tr("Let them try again")}
          </Button>
        )}
        <Button variant="outline" color={p.active ? "stop" : "held"} loading={active.isPending} onClick={() => active.mutate()}>
          {p.active ? tr("May not sign in any more") : tr("May sign in again")}
        </Button>
      </Group>
      <Refusal error={pin.error ?? active.error ?? sessions.error ?? lockout.error} />
    </div>
  );
}

/** A PIN for one time, shown once. */
export function OncePin({ name, pin, onClose }: { name: string; pin: string; onClose: () => void }) {
  return (
    <Dialog title={tr("For {name}", { name })} act={tr("It is written down")} no={tr("Close")} onClose={onClose} onAct={onClose}>
      <p>{tr("A PIN for one time. It is not shown again; they choose their own with it.")}</p>
      <p className={`mono ${classes.once}`} data-once>
        {pin}
      </p>
    </Dialog>
  );
}
