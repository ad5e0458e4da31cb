import type { Run } from "../../api/types";
import { dateTime } from "../../ui/format";

/** Who signed, and the footing of every record. */
export function SignedBy({ run }: { run: Run }) {
  return (
    <>
      <h2>Signed</h2>
      {run.signatures.length === 0 && <p>Nobody has signed yet.</p>}
      {run.signatures.map((s) => (
        <p key={s.part}>
          <b>{s.part === "made" ? "Made" : "Checked"}</b> by {s.by}, {dateTime(s.at)}. {s.reason}
        </p>
      ))}
      <footer>
        This record supports and does not replace the maker’s instructions, local codes, the site’s permits and qualified persons.
      </footer>
    </>
  );
}
