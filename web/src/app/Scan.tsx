import { useEffect, useRef, useState } from "react";
import classes from "./shell.module.css";
import { tr } from "../words/words";

/** Reads a code with the camera, until one is found or it is left. */
export function Scan({ onCode }: { onCode: (text: string) => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const [failed, setFailed] = useState(false);
  const found = useRef(onCode);
  useEffect(() => {
    found.current = onCode;
  });
  useEffect(() => {
    let stream: MediaStream | undefined;
    let over = false;
    const read = async () => {
      const detector = new window.BarcodeDetector!({ formats: ["qr_code", "code_128", "data_matrix"] });
      stream = await navigator.mediaDevices.getUserMedia({ video: { facingMode: "environment" } });
      const v = video.current;
      if (over || !v) return stream.getTracks().forEach((t) => t.stop());
      v.srcObject = stream;
      await v.play();
      while (!over) {
        const [code] = await detector.detect(v);
        if (code) return found.current(code.rawValue);
        await new Promise((r) => setTimeout(r, 150));
      }
    };
    read().catch(() => setFailed(true));
    return () => {
      over = true;
      stream?.getTracks().forEach((t) => t.stop());
    };
  }, []);
  if (failed) return <p role="alert">{tr("The camera cannot be used here. Type the tag instead.")}</p>;
  return (
    <video ref={video} className={classes.scan} muted playsInline aria-label={tr("Hold the code before the camera")}>
      <track kind="captions" />
    </video>
  );
}
