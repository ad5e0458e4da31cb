import { http, take } from "../api/client";
import { inBase64 } from "../api/files";
import { shrink } from "../joint/steps/shrink";

/** Keeps a tool's paper, and says its hash. A picture is made smaller first. */
export async function keepPaper(file: File) {
  const bytes = file.type.startsWith("image/") ? (await shrink(file)).file : await inBase64(file);
  return (await take(http.POST("/api/crib/papers", { body: { file: bytes } }))).hash;
}
