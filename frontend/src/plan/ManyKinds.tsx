import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { type ReactNode, useState } from "react";
import { client, data, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { forget, isUnkept, recalled, useTypedUnder } from "../parts/typing/drafts";
import { several } from "../ui/format";
import { useNotices, words } from "../ui/notices";
import { PickOne } from "../ui/PickOne";
import styles from "../ui/text.module.css";
import { kindPlace, useKeeping } from "./keeping";

type Plan = Schemas["PlanOut"];
type Kind = Schemas["KindPlanOut"];

/** A kind with what was typed over it. */
function typedOver(plan: Plan, kind: Kind): Pick<Kind, "name" | "place" | "expects"> {
  const at = kindPlace(plan.area, kind.kind);
  return {
    name: recalled<string>(`${at}/name`)?.typed ?? kind.name,
    place: recalled<string>(`${at}/place`)?.typed ?? kind.place,
    expects: recalled<string[]>(`${at}/expects`)?.typed ?? kind.expects,
  };
}

function forgetAll(plan: Plan): void {
  for (const kind of plan.kinds) forget(kindPlace(plan.area, kind.kind));
}

/** Where several kinds were changed: all of them are saved in one revision, or reset. */
export function AllChanged(props: { plan: Plan }): ReactNode {
  const { plan } = props;
  useTypedUnder(kindPlace(plan.area, ""));
  const { busy, keep } = useKeeping(plan);
  const changed = plan.kinds.filter((kind) => isUnkept(kindPlace(plan.area, kind.kind)));
  if (changed.length < 2 || !plan.keeps) return null;
  const kinds = Object.fromEntries(changed.map((kind) => [kind.kind, typedOver(plan, kind)]));
  const half = changed.find((kind) => !kinds[kind.kind]?.name !== !kinds[kind.kind]?.place);
  return (
    <p className="all-changed">
      <span className={half ? "signal" : ""}>
        {half
          ? `${half.label} needs both patterns, or none.`
          : `${several(changed.length, "kind")} are changed and not saved.`}
      </span>
      <Button
        type="primary"
        size="small"
        disabled={busy || half !== undefined}
        onClick={() =>
          keep({
            change: { kinds },
            text: `${several(changed.length, "kind")} saved as revision ${plan.revision + 1} of the plan of ${plan.name}.`,
            after: () => forgetAll(plan),
          })
        }
      >
        Save all {changed.length} as revision {plan.revision + 1}
      </Button>
    </p>
  );
}

/** The whole plan of another area, taken over as the next revision of this one. */
export function SameAs(props: { plan: Plan; areas: Schemas["PlanAreaOut"][] }): ReactNode {
  const { plan } = props;
  const { busy, keep } = useKeeping(plan);
  const queries = useQueryClient();
  const { tell } = useNotices();
  const [asking, setAsking] = useState(false);
  const others = props.areas.filter((one) => one.id !== plan.area);
  if (!plan.keeps || !others.length) return null;
  const take = async (area: number) => {
    setAsking(true);
    try {
      const of = await queries.fetchQuery({
        queryKey: keys.plan(area),
        queryFn: () => data(client.GET("/api/plans/{folder}", { params: { path: { folder: area } } })),
      });
      keep({
        change: {
          kinds: Object.fromEntries(of.kinds.map(({ kind, name, place, expects }) => [kind, { name, place, expects }])),
          month_first: of.month_first,
          composing: of.composing,
        },
        text: `The plan of ${plan.name} is as that of ${of.name}, saved as revision ${plan.revision + 1}. Restore revision ${plan.revision} to take it back.`,
        after: () => forgetAll(plan),
      });
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
    setAsking(false);
  };
  return (
    <p className={styles.small}>
      <span className={styles.quiet}>Same plan as </span>
      <PickOne
        size="small"
        aria-label="Same plan as"
        placeholder="another area…"
        disabled={busy || asking}
        of={others.map((one) => [one.id, one.name] as const)}
        value={null}
        onChange={(area) => void take(area)}
      />
    </p>
  );
}
