import { tag } from "../words/locale";

const one = new Intl.NumberFormat(tag, { maximumSignificantDigits: 3 });

/** An amount of memory, as people say it. */
export const amount = (bytes: number) =>
  bytes < 1e6
    ? `${one.format(Math.max(1, Math.round(bytes / 1000)))} kB`
    : bytes < 1e9
      ? `${one.format(bytes / 1e6)} MB`
      : `${one.format(bytes / 1e9)} GB`;
