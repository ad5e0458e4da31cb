import { Choose, type Option } from "./editors";
import { Differs } from "./Differs";
import { Word, type WordProps } from "./Word";

interface ListedProps extends Omit<WordProps, "children"> {
  options: Option[];
  value: string;
  onChoose: (v: string) => void;
  /** What practitioners differ about here. */
  about?: string;
  /** What is asked, above the list. */
  asks?: string;
}

/** A word of the sentence that is chosen from a list. */
export function Listed({ options, value, onChoose, about, asks, ...word }: ListedProps) {
  return (
    <Word {...word}>
      {(close) => (
        <>
          {asks && <p className="soft">{asks}</p>}
          {about && <Differs about={about} />}
          <Choose
            options={options}
            value={value}
            onChoose={(v) => {
              close();
              onChoose(v);
            }}
          />
        </>
      )}
    </Word>
  );
}
