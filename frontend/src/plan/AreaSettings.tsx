import { useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { useNotices, words } from "../app/notices";
import { count } from "../parts/format";

type Plan = Schemas["PlanOut"];
type Change = { month_first: boolean } | { limits: Schemas["LimitsForm"] };

/** What an area's plan says beside names and places: the order of dates, how much a level bears. */
export function AreaSettings(props: { plan: Plan }): ReactNode {
  const { plan } = props;
  const queries = useQueryClient();
  const { tell } = useNotices();
  const keep = async (change: Change, text: string) => {
    try {
      await data(
        client.PUT("/api/plans/{folder}", {
          params: { path: { folder: plan.area } },
          body: { revision: plan.revision, kinds: {}, month_first: null, limits: null, back_to: null, ...change },
        }),
      );
      tell({ text });
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
    await queries.invalidateQueries();
  };
  return (
    <section className="area-settings small">
      <DateOrder plan={plan} keep={keep} />
      <Levels plan={plan} keep={keep} />
    </section>
  );
}

type Part = { plan: Plan; keep: (change: Change, text: string) => Promise<void> };

/** How dates such as 03-04-26 are taken that a page does not settle. */
function DateOrder(props: Part): ReactNode {
  const { plan } = props;
  const ways = [
    { first: false, label: "day first: 3 April" },
    { first: true, label: "month first: 4 March" },
  ];
  return (
    <>
      <h2 className="label">Dates that read two ways</h2>
      <fieldset className="switch">
        <legend className="hidden">Dates that read two ways</legend>
        <span className="quiet">03-04-26 in arrivals of {plan.name}: </span>
        {ways.map((way) => (
          <button
            key={way.label}
            type="button"
            className="plain"
            aria-pressed={plan.month_first === way.first}
            disabled={!plan.keeps}
            onClick={() => {
              if (plan.month_first !== way.first)
                void props.keep(
                  { month_first: way.first },
                  `Dates that read two ways are taken ${way.first ? "month" : "day"} first in ${plan.name} now.`,
                );
            }}
          >
            {way.label}
          </button>
        ))}
      </fieldset>
      <p className="quiet">Where the page itself tells its order, that holds. The other reading is still asked.</p>
    </>
  );
}

/** From how many loose documents or thin folders on the drive says so. */
function Levels(props: Part): ReactNode {
  const { plan } = props;
  const [limits, setLimits] = useState(plan.limits);
  const same = (["loose", "thin", "few"] as const).every((name) => limits[name] === plan.limits[name]);
  const field = (name: "loose" | "thin" | "few", label: string) => (
    <input
      type="number"
      className="text-input"
      aria-label={label}
      value={limits[name]}
      disabled={!plan.keeps}
      min={name === "few" ? 0 : name === "thin" ? 2 : 1}
      max={100_000}
      onChange={(event) => setLimits({ ...limits, [name]: event.target.valueAsNumber || 0 })}
    />
  );
  return (
    <>
      <h2 className="label">What a level bears</h2>
      <form
        className="limits"
        onSubmit={(event) => {
          event.preventDefault();
          void props.keep({ limits }, `Levels of ${plan.name} bear ${count(limits.loose)} loose documents now.`);
        }}
      >
        <span>
          more than {field("loose", "Loose documents on a level")} loose documents, or more than{" "}
          {field("thin", "Thin folders beside each other")} folders of at most{" "}
          {field("few", "Documents in a thin folder")} documents, are told in the drive
        </span>
        {plan.keeps && !same && (
          <button type="submit" className="button small">
            Keep the limits
          </button>
        )}
      </form>
    </>
  );
}
