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
import { language, spoken, tag } from "./words/locale";
import { keptWords } from "./words/own";
import { take } from "./words/words";

document.documentElement.lang = tag;

// What is printed has the locale of the page that asks for it, also for whoever never chose one.
document.cookie = `dynacor-locale=${tag}; path=/api; samesite=strict`;

// What is said on a screen is settled before the first line is drawn: then every module may say it as it is read.
const words = catalogues[language]?.();
if (words) take(await words, spoken(language) ? await keptWords(language) : undefined);
const { App } = await import("./app/App");
createRoot(document.getElementById("root")!).render(<App />);
