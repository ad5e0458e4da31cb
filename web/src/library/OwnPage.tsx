import { Button, Group, Textarea } from "@mantine/core";
import { useInputState } from "@mantine/hooks";
import { useMutation } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { http, take } from "../api/client";
import { useFreshOwn, useMay } from "../api/queries";
import type { Own } from "../api/types";
import { Dialog } from "../ui/Form";
import { Refusal } from "../ui/Refusal";
import classes from "./library.module.css";
import { tr } from "../words/words";

interface PageProps {
  title: string;
  words: string;
  act?: ReactNode;
  children: ReactNode;
}

/** A page of the site's own figures. */
export function Page({ title, words, act, children }: PageProps) {
  return (
    // Scrolled by key as well, so it takes the focus.
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <article className={classes.page} tabIndex={0} aria-label={title}>
      <Group component="header" gap={18} mb={10} className={classes.head} justify="space-between" align="start">
        <div className={classes.headWords}>
          <h1>{title}</h1>
          <p className="soft">{words}</p>
        </div>
        <Link to="/library" className={classes.back}>
          {tr("Library")}
        </Link>
        <div className={classes.headAct}>{act}</div>
      </Group>
      {children}
    </article>
  );
}

/** Who entered a figure, and when. */
export function Kept({ kept, when }: { kept: Own["lubricants"][number]["kept"]; when: string }) {
  return (
    <p className="fine">
      {tr("{withdrawn} by {by}, {when}.", { withdrawn: kept.withdrawn ? tr("Withdrawn") : tr("Entered"), by: kept.by, when })}
    </p>
  );
}

/** Takes a figure out of use, with a reason. */
export function Withdraw({ kind, name }: { kind: "lubricant" | "gasket" | "certificate"; name: string }) {
  const engineer = useMay("engineer");
  const fresh = useFreshOwn();
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useInputState("");
  const withdraw = useMutation({
    mutationFn: () => take(http.PUT("/api/own/{kind}/withdrawn", { params: { path: { kind } }, body: { name, reason } })),
    onSuccess: () => {
      fresh();
      setAsking(false);
    },
  });
  if (!engineer) return null;
  return (
    <>
      <Button variant="default" onClick={() => setAsking(true)}>
        {tr("Withdraw")}
      </Button>
      {asking && (
        <Dialog
          title={tr("Withdraw {name}", { name })}
          act={tr("Withdraw it")}
          color="stop"
          ready={reason.trim() !== ""}
          busy={withdraw.isPending}
          onClose={() => setAsking(false)}
          onAct={() => withdraw.mutate()}
        >
          <p>{tr("No new plan rests on it. Plans that do, stay.")}</p>
          <Textarea label={tr("Why")} name="reason" value={reason} onChange={setReason} minRows={2} data-autofocus />
          <Refusal error={withdraw.error} />
        </Dialog>
      )}
    </>
  );
}
