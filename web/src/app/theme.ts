import { createTheme, type MantineColorsTuple } from "@mantine/core";
import { tr } from "../words/words";

/** Mantine wants ten shades of a colour; ours are one each, from app.css. */
function one(name: string): MantineColorsTuple {
  const v = `var(--${name})`;
  return [v, v, v, v, v, v, v, v, v, v];
}

export const theme = createTheme({
  fontFamily: '"Atkinson Hyperlegible", system-ui, sans-serif',
  fontFamilyMonospace: '"Atkinson Hyperlegible Mono", ui-monospace, monospace',
  headings: { fontFamily: '"Atkinson Hyperlegible", system-ui, sans-serif', fontWeight: "700" },
  colors: { now: one("now"), held: one("held"), plan: one("plan"), stop: one("stop"), mind: one("mind"), quiet: one("quiet") },
  primaryColor: "plan",
  defaultRadius: 5,
  cursorType: "pointer",
  components: {
    Button: { defaultProps: { size: "md", variant: "filled" } },
    TextInput: { defaultProps: { size: "md" } },
    PasswordInput: { defaultProps: { size: "md" } },
    Textarea: { defaultProps: { size: "md", autosize: true, minRows: 1, maxLength: 500 } },
    NativeSelect: { defaultProps: { size: "md" } },
    Modal: {
      defaultProps: {
        closeButtonProps: { "aria-label": tr("Close") },
        centered: true,
        overlayProps: { backgroundOpacity: 0.5 },
        transitionProps: { duration: 0 },
      },
    },
    Popover: { defaultProps: { shadow: "lg", transitionProps: { duration: 0 } } },
  },
});
