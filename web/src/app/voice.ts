import { useEffect, useState } from "react";
import { tag } from "../words/locale";

const VOICE = "dynacor-voice";

/** Whether this browser can speak. */
export const speaks = () => typeof window.speechSynthesis !== "undefined" && typeof window.SpeechSynthesisUtterance !== "undefined";

/** Says something now; what was being said is cut short: the next bolt counts, not the last. */
export function say(text: string) {
  if (!speaks()) return;
  window.speechSynthesis.cancel();
  const words = new SpeechSynthesisUtterance(text);
  words.lang = tag;
  // A voice that is on the device speaks without a network too.
  const voices = window.speechSynthesis.getVoices().filter((v) => v.lang.slice(0, 2) === tag.slice(0, 2));
  words.voice = voices.find((v) => v.localService) ?? voices[0] ?? null;
  window.speechSynthesis.speak(words);
}

/** Speaks what comes next, or why it was not taken, whenever that changes, where it was asked for on this device. */
export function useVoice(text: string | undefined) {
  const [on, setOn] = useState(() => speaks() && localStorage.getItem(VOICE) === "on");
  useEffect(() => {
    if (on && text) say(text);
  }, [on, text]);
  useEffect(() => () => window.speechSynthesis?.cancel(), []);
  const turn = () => {
    localStorage.setItem(VOICE, on ? "off" : "on");
    if (on) window.speechSynthesis.cancel();
    setOn(!on);
  };
  return { can: speaks(), on, turn };
}
