import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { PatternText } from "../parts/names/SlotText";
import { count } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import styles from "../ui/text.module.css";

type KindFit = Schemas["KindFitOut"];
/** Of so many kinds the pattern of names is shown; of the others only how many names fit. */
const SHOWN = 2;

/** How many names fit; the patterns that they are to fit stand behind a click. */
export function FitsTold(props: { fits: KindFit[]; open: boolean; onOpen: (open: boolean) => void }): ReactNode {
  const { fits, open } = props;
  if (!fits.length) return null;
  return (
    <>
      <span className="nowrap">
        <Fit of={fits} />{" "}
        <LinkButton aria-expanded={open} onClick={() => props.onOpen(!open)}>
          {open ? "hide the pattern" : fits.length > 1 ? "patterns" : "pattern"}
        </LinkButton>
      </span>
      {open && <Fits fits={fits} />}
    </>
  );
}

/** How a folder's documents are to be named, by kind, and how many names are so. */
function Fits(props: { fits: KindFit[] }): ReactNode {
  const { fits } = props;
  const others = fits.slice(SHOWN);
  return (
    <div className="fits">
      {fits.slice(0, SHOWN).map((fit) => (
        <div key={fit.kind}>
          <span className={styles.quiet}>{fits.length > 1 ? `${fit.label.toLowerCase()} named as ` : "named as "}</span>
          <PatternText pattern={fit.pattern} strokes={fit.strokes} /> <Fit of={[fit]} />
        </div>
      ))}
      {others.length > 0 && (
        <div>
          <span className={styles.quiet}>{others.map((fit) => fit.label.toLowerCase()).join(", ")}</span>{" "}
          <Fit of={others} />
        </div>
      )}
    </div>
  );
}

function Fit(props: { of: KindFit[] }): ReactNode {
  const fit = props.of.reduce((all, one) => all + one.fit, 0);
  const of = props.of.reduce((all, one) => all + one.of, 0);
  return (
    <span className={fit === of ? "ok nowrap" : "signal nowrap"}>
      <b>{count(fit)}</b> of {count(of)} names fit
    </span>
  );
}
