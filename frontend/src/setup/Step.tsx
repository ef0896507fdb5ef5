import { Steps } from "antd";
import type { ReactNode } from "react";
import { Brand } from "../ui/Brand";
import styles from "../ui/text.module.css";

const STEPS = ["Office", "You", "Areas", "People", "Ready"];

/** One page of the first hour: where one is on the way, what it asks, and room for that. */
export function Step(props: {
  at: number;
  title: string;
  told?: ReactNode;
  wide?: boolean;
  children: ReactNode;
}): ReactNode {
  return (
    <main className={`set-up${props.wide ? " wide" : ""}`}>
      <header>
        <span className="brand">
          <Brand />
          waka
        </span>
        <Steps size="small" current={props.at} items={STEPS.map((title) => ({ title }))} />
      </header>
      <section aria-labelledby="step-title">
        <h1 id="step-title">{props.title}</h1>
        {props.told && <p className={styles.quiet}>{props.told}</p>}
        {props.children}
      </section>
    </main>
  );
}
