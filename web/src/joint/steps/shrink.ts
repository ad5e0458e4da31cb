import { base64 } from "../../api/files";
import { tr } from "../../words/words";

/** The longest side of a photograph that is kept, pixels. */
const SIDE = 1600;

/** What is not taken at all, bytes. */
export const LARGEST = 12 << 20;

export interface Shrunk {
  /** JPEG, in base64. */
  file: string;
  /** SHA-256 of its bytes, hex. */
  hash: string;
  width: number;
  height: number;
}

/**
 * Makes a photograph ready to be kept: the right way up, at most 1600 pixels long, drawn anew, so that nothing of what the
 * camera wrote beside it, such as where it was taken, is left. Throws what is wrong with the file, in words.
 */
export async function shrink(from: Blob): Promise<Shrunk> {
  if (from.size > LARGEST) throw new Error(tr("It has {size} MB; at most 12 MB are taken.", { size: Math.ceil(from.size / (1 << 20)) }));
  let image: ImageBitmap;
  try {
    image = await createImageBitmap(from, { imageOrientation: "from-image" });
  } catch {
    throw new Error("This is no photograph that can be read here.");
  }
  const scale = Math.min(1, SIDE / Math.max(image.width, image.height));
  const width = Math.max(1, Math.round(image.width * scale));
  const height = Math.max(1, Math.round(image.height * scale));
  const canvas = document.createElement("canvas");
  canvas.width = width;
  canvas.height = height;
  canvas.getContext("2d")!.drawImage(image, 0, 0, width, height);
  image.close();
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/jpeg", 0.82));
  if (!blob) throw new Error("The photograph could not be made smaller.");
  const bytes = new Uint8Array(await blob.arrayBuffer());
  const sum = new Uint8Array(await crypto.subtle.digest("SHA-256", bytes));
  return { file: base64(bytes), hash: [...sum].map((b) => b.toString(16).padStart(2, "0")).join(""), width, height };
}
