import { release } from "../app/release";
import { type Along, NoRoom } from "./shelf";
import { tr } from "../words/words";

/** Takes joints along, and says what kept one from it; empty where nothing did. */
export async function takeAll(along: Along, joints: string[], taken: (n: number) => void = () => {}) {
  // Browsers keep pages of addresses that nobody can listen in on, alone.
  if (!("serviceWorker" in navigator)) return tr("this browser keeps pages of https addresses alone");
  if (!(await release.there())) return tr("there is no network");
  void navigator.storage?.persist?.(); // what the browser may not throw away by itself
  try {
    for (const [i, j] of joints.entries()) {
      await along.take(j);
      taken(i + 1);
    }
  } catch (e) {
    return e instanceof NoRoom ? tr("there is no room on this device") : tr("there is no network");
  }
  return "";
}
