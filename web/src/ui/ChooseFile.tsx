import { Button, FileButton, type ButtonProps } from "@mantine/core";
import { useRef } from "react";

interface ChooseFileProps extends Pick<ButtonProps, "variant" | "color" | "loading" | "children"> {
  /** What is chosen, for whoever does not see the button. */
  label: string;
  name?: string;
  accept: string;
  onFile: (f: File) => void;
}

/** A button that asks for a file. The same one can be chosen again, mended. */
export function ChooseFile({ label, name, accept, onFile, ...button }: ChooseFileProps) {
  const again = useRef<() => void>(null);
  return (
    <FileButton
      resetRef={again}
      onChange={(f) => {
        again.current?.(); // else a browser takes it for none that was chosen
        if (f) onFile(f);
      }}
      accept={accept}
      inputProps={{ "aria-label": label, name }}
    >
      {(props) => <Button {...props} {...button} />}
    </FileButton>
  );
}
