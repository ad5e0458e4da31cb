import { Button, Slider } from "@mantine/core";
import { useEffect, useState } from "react";
import { useKeys } from "../app/keys";
import { tr } from "../words/words";
import classes from "./bench.module.css";

/** How long a pull is shown when it plays, ms. */
const BEAT = 180;

/** The pull that is shown, of so many: the last, until somebody looks at another or lets it play. */
export function usePlay(last: number) {
  const [chosen, setAt] = useState<number>();
  const [plays, setPlays] = useState(false);
  const at = Math.min(chosen ?? last, last);
  const playing = plays && at < last;
  useEffect(() => {
    if (!playing) return;
    const beat = setTimeout(() => setAt(at + 1), BEAT);
    return () => clearTimeout(beat);
  }, [playing, at]);
  const play = () => {
    if (!playing && at >= last) setAt(0);
    setPlays(!playing);
  };
  useKeys({ " ": play });
  const to = (pull: number) => {
    setPlays(false);
    setAt(pull);
  };
  return { at, playing, play, to };
}

interface ScrubProps {
  at: number;
  last: number;
  playing: boolean;
  onPlay: () => void;
  onAt: (pull: number) => void;
}

/** Goes through the pulls, by hand or by itself. */
export function Scrub({ at, last, playing, onPlay, onAt }: ScrubProps) {
  return (
    <div className={classes.scrub}>
      <Button onClick={onPlay} w={110} data-play={playing || undefined}>
        {playing ? tr("Pause") : tr("Play")}
      </Button>
      <Slider
        style={{ flex: 1 }}
        min={0}
        max={last}
        value={at}
        onChange={onAt}
        label={(v) => tr("after pull {pull}", { pull: v })}
        thumbLabel={tr("Pull that is shown")}
        color="now"
        size={6}
        thumbSize={26}
        classNames={{ root: classes.slider }}
      />
      <span className="mono">
        {at}
        {" / "}
        {last}
      </span>
    </div>
  );
}
