import { Button, Checkbox, InputNumber } from "antd";
import type { ReactNode } from "react";
import type { Schemas } from "../api/client";
import { same, useTyped } from "../parts/typing/typed";
import { Choice } from "../ui/Choice";
import { several } from "../ui/format";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";
import { useKeeping } from "./keeping";

type Part = { plan: Schemas["PlanOut"] } & ReturnType<typeof useKeeping>;

/** What an area's plan says beside names and places: how names are spelt, the order of dates, how much a level bears. */
export function AreaSettings(props: { plan: Schemas["PlanOut"] }): ReactNode {
  const part = { plan: props.plan, ...useKeeping(props.plan) };
  return (
    <section className={`area-settings ${styles.small}`}>
      <Composed {...part} />
      <DateOrder {...part} />
      <Levels {...part} />
    </section>
  );
}

/** A number as its field shows it; one that is cleared is none (remembered, it is null). */
const shown = (number: number) => (Number.isFinite(number) ? number : null);

/** How long composed names are, and in which letters. */
function Composed(props: Part): ReactNode {
  const { plan } = props;
  const [asked, setAsked] = useTyped(plan.composing, plan.keeps ? `plan ${plan.area} composing` : undefined);
  return (
    <>
      <h2 className="label">Composed names</h2>
      <form
        className="limits"
        onSubmit={(event) => {
          event.preventDefault();
          props.keep({
            change: { composing: asked },
            text: `Names are composed in ${plan.name} with at most ${asked.characters} characters${asked.narrow ? ", in plain letters" : ""} now.`,
          });
        }}
      >
        <span>
          at most{" "}
          <InputNumber<number>
            size="small"
            aria-label="Characters of a composed name"
            value={shown(asked.characters)}
            required
            disabled={!plan.keeps}
            min={20}
            max={80}
            onChange={(characters) => setAsked({ ...asked, characters: characters ?? Number.NaN })}
          />{" "}
          characters: the longest free text is cut at a word
        </span>
        <Checkbox
          checked={asked.narrow}
          disabled={!plan.keeps}
          onChange={(event) => setAsked({ ...asked, narrow: event.target.checked })}
        >
          plain letters only (A to Z, digits, “.”, “_”, “-”): others are spelt out, a space becomes “-”
        </Checkbox>
        {plan.keeps && !same(asked, plan.composing) && (
          <Kept busy={props.busy} what="how names are composed" onBack={() => setAsked(plan.composing)} />
        )}
      </form>
    </>
  );
}

/** What keeps that which was changed, and what takes it back. */
function Kept(props: { what: string; busy: boolean; onBack: () => void }): ReactNode {
  return (
    <span className="line-actions">
      <Button htmlType="submit" size="small" disabled={props.busy}>
        Save {props.what}
      </Button>
      <Button size="small" disabled={props.busy} aria-label={`Reset: ${props.what}`} onClick={props.onBack}>
        {SAY.reset}
      </Button>
    </span>
  );
}

/** How dates such as 03-04-26 are taken that a page does not settle. */
function DateOrder(props: Part): ReactNode {
  const { plan } = props;
  return (
    <>
      <h2 className="label">Dates that read two ways</h2>
      <Choice
        label="Dates that read two ways"
        lead={`03-04-26 in arrivals of ${plan.name}:`}
        of={[
          [false, "day first: 3 April"],
          [true, "month first: 4 March"],
        ]}
        value={plan.month_first}
        disabled={!plan.keeps || props.busy}
        onChange={(first) => {
          if (plan.month_first !== first)
            props.keep({
              change: { month_first: first },
              text: `Dates that read two ways are taken ${first ? "month" : "day"} first in ${plan.name} now.`,
            });
        }}
      />
      <p className={styles.quiet}>
        Where the page itself tells its order, that holds. The other reading is still asked.
      </p>
    </>
  );
}

/** From how many loose documents or thin folders on the drive says so. */
function Levels(props: Part): ReactNode {
  const { plan } = props;
  const [limits, setLimits] = useTyped(plan.limits, plan.keeps ? `plan ${plan.area} limits` : undefined);
  const field = (name: "loose" | "thin" | "few", label: string) => (
    <InputNumber<number>
      size="small"
      aria-label={label}
      value={shown(limits[name])}
      required
      disabled={!plan.keeps}
      min={name === "few" ? 0 : name === "thin" ? 2 : 1}
      max={100_000}
      onChange={(most) => setLimits({ ...limits, [name]: most ?? Number.NaN })}
    />
  );
  return (
    <>
      <h2 className="label">When a folder counts as overfull</h2>
      <form
        className="limits"
        onSubmit={(event) => {
          event.preventDefault();
          props.keep({
            change: { limits },
            text: `A folder of ${plan.name} counts as overfull with more than ${several(limits.loose, "loose document")} now.`,
          });
        }}
      >
        <span>
          more than {field("loose", "Loose documents on a level")} loose documents, or more than{" "}
          {field("thin", "Thin folders beside each other")} folders of at most{" "}
          {field("few", "Documents in a thin folder")} documents, are told in the drive
        </span>
        {plan.keeps && !same(limits, plan.limits) && (
          <Kept busy={props.busy} what="the limits" onBack={() => setLimits(plan.limits)} />
        )}
      </form>
    </>
  );
}
