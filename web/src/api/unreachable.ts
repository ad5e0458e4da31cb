import { tr } from "../words/words";
import type { Problem } from "./types";

/** What could not be sent; it is not stored yet. */
export const unreachable = (): Problem => ({
  type: "",
  title: "",
  status: 0,
  code: "unreachable",
  detail: tr("The server cannot be reached; this is not stored yet."),
  way: tr("Change it again when the connection is back."),
});
