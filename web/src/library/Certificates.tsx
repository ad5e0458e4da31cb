import { Button } from "@mantine/core";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { http, take } from "../api/client";
import { useFreshOwn, useMay, useOwn } from "../api/queries";
import type { Bolts } from "../api/types";
import { Paper } from "../joint/layout/Grade";
import { dateTime, number } from "../ui/format";
import { Refusal } from "../ui/Refusal";
import { Modal } from "@mantine/core";
import { Kept, Page, Withdraw } from "./OwnPage";
import classes from "./library.module.css";
import { tr } from "../words/words";

/** Certificates of lots of bolts, chosen by number where a grade is asked for. */
export function Certificates() {
  const own = useOwn();
  const engineer = useMay("engineer");
  const fresh = useFreshOwn();
  const [entering, setEntering] = useState(false);
  const keep = useMutation({
    mutationFn: (certificate: NonNullable<Bolts["certificate"]>) => take(http.POST("/api/own/certificates", { body: certificate })),
    onSuccess: () => {
      fresh();
      setEntering(false);
    },
  });
  const o = own.data;
  if (!o) return own.isError ? <Refusal error={own.error} /> : null;
  return (
    <Page
      title={tr("Certificates")}
      words={tr("Strength by the paper of a lot of bolts, where its grade has no listed value or the paper says more.")}
      act={engineer && <Button onClick={() => setEntering(true)}>{tr("Enter one")}</Button>}
    >
      {o.certificates.length === 0 && <p>{tr("None yet.")}</p>}
      {o.certificates.length > 0 && (
        <table className={classes.table}>
          <thead>
            <tr>
              <th>{tr("Number")}</th>
              <th>{tr("Proof")}</th>
              <th>{tr("Yield or 0.2 %")}</th>
              <th>{tr("Tensile")}</th>
              <th>{tr("Entered")}</th>
              <th>{tr("Use")}</th>
            </tr>
          </thead>
          <tbody>
            {o.certificates.map(({ given: c, kept }) => (
              <tr key={c.number}>
                <td>{kept.usable ? <b>{c.number}</b> : <s>{c.number}</s>}</td>
                {[c.proof, c.yield, c.tensile].map((q, i) => (
                  // Three columns that never change places.
                  // oxlint-disable-next-line react/no-array-index-key
                  <td key={i} className="mono">
                    {q ? `${number(q.value)} ${q.unit}` : tr("not given")}
                  </td>
                ))}
                <td>
                  <Kept kept={kept} when={dateTime(kept.at)} />
                </td>
                <td>{kept.usable && <Withdraw kind="certificate" name={c.number} />}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Modal opened={entering} onClose={() => setEntering(false)} title={<b>{tr("A certificate")}</b>}>
        <Paper onSet={(c) => c.certificate && keep.mutate(c.certificate)} />
        <Refusal error={keep.error} />
      </Modal>
    </Page>
  );
}
