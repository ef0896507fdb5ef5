import { Input } from "antd";
import { type ReactNode, useState } from "react";
import { count, size } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { words } from "../ui/notices";
import { Problem } from "../ui/Problem";
import styles from "../ui/text.module.css";
import { amounts } from "./Groups";
import { useSums } from "./useLines";

type Props = {
  entries: number[];
  onAll: () => void;
  onInvert: () => void;
  onNone: () => void;
  /** Choose those whose names read as a pattern; what is wrong with it, if anything is. */
  onPattern: (pattern: string) => Promise<void>;
};

/** What is chosen, added up, and further ways to choose. */
export function ChosenSums(props: Props): ReactNode {
  const sums = useSums(props.entries).data;
  const [pattern, setPattern] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <>
      {sums && (
        <dl className="card-facts">
          <div>
            <dt className={styles.quiet}>Documents</dt>
            <dd>{count(sums.documents)}</dd>
          </div>
          <div>
            <dt className={styles.quiet}>Size</dt>
            <dd>{size(sums.bytes)}</dd>
          </div>
          <div>
            <dt className={styles.quiet}>Types</dt>
            <dd>
              {sums.types.map((one) => `${count(one.documents)} ${one.type.toUpperCase() || "other"}`).join(", ")}
            </dd>
          </div>
          {sums.amounts.length > 0 && (
            <div>
              <dt className={styles.quiet}>Amounts</dt>
              <dd>{amounts(sums.amounts)}</dd>
            </div>
          )}
        </dl>
      )}
      <p className={`choosing ${styles.small}`}>
        <LinkButton onClick={props.onAll}>all</LinkButton>
        <LinkButton onClick={props.onInvert}>the others</LinkButton>
        <LinkButton onClick={props.onNone}>none</LinkButton>
      </p>
      <form
        className="rename"
        onSubmit={(event) => {
          event.preventDefault();
          setProblem(null);
          props.onPattern(pattern).catch((error: unknown) => setProblem(words(error)));
        }}
      >
        <label className="label" htmlFor="choose-pattern">
          Choose all names like
        </label>
        <Input
          id="choose-pattern"
          className="mono"
          value={pattern}
          maxLength={300}
          placeholder="<issued yyyy-MM-dd>_<party short>"
          onChange={(event) => setPattern(event.target.value)}
        />
        {problem && <Problem small>{problem}</Problem>}
      </form>
    </>
  );
}
