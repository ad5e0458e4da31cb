import { signals } from "./hand";

/** What a hand is told without looking: it is stored here, it moved, it was refused. */
export type Signal = "held" | "moved" | "refused";

/** Each is another rhythm: buzz and pause, ms. The sound follows it, at its pitch, Hz. */
const rhythm: Record<Signal, { buzz: number[]; pitch: number }> = {
  held: { buzz: [60], pitch: 880 },
  moved: { buzz: [60, 80, 60], pitch: 660 },
  refused: { buzz: [400], pitch: 220 },
};

let audio: AudioContext | undefined;

/** Gives a signal, where that is asked for on this device. */
export function signal(what: Signal) {
  if (!signals.read()) return;
  const { buzz, pitch } = rhythm[what];
  navigator.vibrate?.(buzz);
  audio ??= new AudioContext();
  let at = audio.currentTime;
  buzz.forEach((ms, i) => {
    if (i % 2 === 0) tone(audio!, pitch, at, ms / 1000);
    at += ms / 1000;
  });
}

/** A tone with soft ends: a hard one clicks like a wrench. */
function tone(on: AudioContext, pitch: number, at: number, seconds: number) {
  const o = new OscillatorNode(on, { frequency: pitch });
  const g = new GainNode(on, { gain: 0 });
  g.gain.setValueAtTime(0, at);
  g.gain.linearRampToValueAtTime(0.3, at + 0.01);
  g.gain.setValueAtTime(0.3, at + seconds - 0.01);
  g.gain.linearRampToValueAtTime(0, at + seconds);
  o.connect(g).connect(on.destination);
  o.start(at);
  o.stop(at + seconds);
}
