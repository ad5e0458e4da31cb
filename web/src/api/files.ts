/** Bytes as they are sent within JSON. */
export function base64(bytes: Uint8Array) {
  let text = "";
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}

/** A file as it is sent: its bytes in base64. */
export async function inBase64(file: Blob) {
  return base64(new Uint8Array(await file.arrayBuffer()));
}
