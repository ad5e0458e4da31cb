import "@fontsource/atkinson-hyperlegible/latin-400.css";
import "@fontsource/atkinson-hyperlegible/latin-700.css";
import "@fontsource/atkinson-hyperlegible/latin-ext-400.css";
import "@fontsource/atkinson-hyperlegible/latin-ext-700.css";
import "@fontsource/atkinson-hyperlegible-mono/latin-400.css";
import "@fontsource/atkinson-hyperlegible-mono/latin-700.css";
import "@mantine/core/styles.css";
import "./app/app.css";
import { createRoot } from "react-dom/client";
import { catalogues } from "./words/catalogues";
import { language, tag } from "./words/locale";
import { take } from "./words/words";

document.documentElement.lang = tag;

// What is said on a screen is settled before the first line is drawn: then every module may say it as it is read.
const words = catalogues[language]?.();
if (words) await words.then(take);
const { App } = await import("./app/App");
createRoot(document.getElementById("root")!).render(<App />);
