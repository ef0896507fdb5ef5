import { useQuery } from "@tanstack/react-query";
import { Button, Table } from "antd";
import type { ReactNode } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { client, data, isGone, type Schemas } from "../api/client";
import { keys } from "../api/keys";
import { strokesOf } from "../parts/names/PatternField";
import { PatternText } from "../parts/names/SlotText";
import { PlanNav } from "../parts/plan/PlanNav";
import { useUnkept } from "../parts/typing/drafts";
import { Unkept } from "../parts/typing/Unkept";
import { Choice } from "../ui/Choice";
import { count, moment } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { Sides } from "../ui/Sides";
import { Failed, Loading, Nothing } from "../ui/states";
import "../parts/lines/grid.css";
import { AreaSettings } from "./AreaSettings";
import { KindEditor } from "./KindEditor";
import { kindPlace, useKeeping } from "./keeping";
import { AllChanged, SameAs } from "./ManyKinds";
import "../parts/beside.css";
import "./plan.css";
import styles from "../ui/text.module.css";

type Plan = Schemas["PlanOut"];

/** The filing plan of an area: per kind, what a document is called and where it goes; in revisions. */
export default function PlanPage(): ReactNode {
  const parameters = useParams();
  const navigate = useNavigate();
  const [query, setQuery] = useSearchParams();
  const areas = useQuery({ queryKey: keys.areas, queryFn: () => data(client.GET("/api/plans")) });
  const area = parameters.area ? Number(parameters.area) : (areas.data?.areas[0]?.id ?? null);
  const plan = useQuery({
    queryKey: keys.plan(area ?? 0),
    enabled: area !== null,
    queryFn: () => data(client.GET("/api/plans/{folder}", { params: { path: { folder: area ?? 0 } } })),
  });
  if (areas.data && !areas.data.areas.length)
    return (
      <main className="main">
        <Nothing title="There is no area that you may read">
          A filing plan belongs to an area. Ask an administrator for access to one.
        </Nothing>
      </main>
    );
  const failed = [areas, plan].find((one) => one.isError && (!one.data || isGone(one.error)));
  if (failed)
    return (
      <main className="main">
        <Failed what="The plan" error={failed.error} onAgain={failed.refetch}>
          <Link to="/plan">Go to the first plan</Link>
        </Failed>
      </main>
    );
  const told = plan.data;
  const kind = told?.kinds.find((one) => one.kind === query.get("kind")) ?? told?.kinds[0];
  return (
    <main className="plan">
      <Sides
        name="plan"
        end={{
          width: [380, 340],
          content: (
            <aside className="way-pane" aria-label="The chosen kind">
              {told && kind && <KindEditor key={`${told.area} ${kind.kind}`} plan={told} kind={kind} />}
            </aside>
          ),
        }}
      >
        <section className="plan-pane" aria-label="The plan">
          <div className="ledger-head">
            <h1>Filing plan</h1>
            <Choice
              label="Area"
              of={(areas.data?.areas ?? []).map((one) => [one.id, one.name] as const)}
              value={area}
              onChange={(id) => void navigate(`/plan/${id}`)}
            />
            {area !== null && <PlanNav area={area} />}
          </div>
          {!told && <Loading />}
          {told && (
            <>
              <Kinds
                plan={told}
                chosen={kind?.kind ?? ""}
                onChoose={(key) => setQuery({ kind: key }, { replace: true })}
              />
              <AllChanged plan={told} />
              <AreaSettings key={told.area} plan={told} />
              <Revisions plan={told} areas={areas.data?.areas ?? []} />
            </>
          )}
        </section>
      </Sides>
    </main>
  );
}

function Kinds(props: { plan: Plan; chosen: string; onChoose: (kind: string) => void }): ReactNode {
  const unkept = useUnkept();
  return (
    <Table
      className="kinds"
      size="small"
      pagination={false}
      rowKey="kind"
      dataSource={props.plan.kinds}
      rowClassName={(kind) => (kind.kind === props.chosen ? "here" : "")}
      onRow={(kind) => ({ onClick: () => props.onChoose(kind.kind) })}
      columns={[
        {
          title: "Kind",
          rowScope: "row",
          render: (_, kind) => (
            <>
              <Button type="text" size="small" aria-pressed={kind.kind === props.chosen}>
                {kind.label}
              </Button>
              {unkept(kindPlace(props.plan.area, kind.kind)) && <Unkept />}
            </>
          ),
        },
        {
          title: "Name",
          render: (_, kind) =>
            kind.name ? (
              <PatternText pattern={kind.name} strokes={strokesOf(kind.name, kind.place)} />
            ) : (
              <i className={styles.quiet}>no pattern</i>
            ),
        },
        {
          title: "Place",
          render: (_, kind) =>
            kind.place && <PatternText pattern={kind.place} strokes={strokesOf(kind.name, kind.place)} />,
        },
        {
          title: "Fit",
          align: "right",
          className: "nowrap",
          render: (_, kind) =>
            kind.of > 0 && (
              <span className={kind.fit === kind.of ? "ok" : "signal"}>
                <b>{count(kind.fit)}</b> of {count(kind.of)}
              </span>
            ),
        },
      ]}
    />
  );
}

function Revisions(props: { plan: Plan; areas: Schemas["PlanAreaOut"][] }): ReactNode {
  const { plan } = props;
  const { busy, keep } = useKeeping(plan);
  return (
    <section className="revisions">
      <h2 className="label">Revisions</h2>
      <SameAs plan={plan} areas={props.areas} />
      {plan.revisions.length === 0 && <p className={`${styles.quiet} ${styles.small}`}>The area has no plan yet.</p>}
      <ul>
        {plan.revisions.map((one) => (
          <li key={one.revision}>
            <b>{one.revision}</b> <span className={`${styles.quiet} nowrap`}>{moment(one.at)}</span>{" "}
            {one.by ?? "set up"}
            <span className={styles.quiet}>
              {" "}
              {one.changed.length ? `changed ${one.changed.join(", ").toLowerCase()}` : "changed nothing"}
            </span>{" "}
            {plan.keeps && one.revision !== plan.revision && (
              <LinkButton
                disabled={busy}
                onClick={() =>
                  keep({
                    change: { back_to: one.revision },
                    text: `The plan is as in revision ${one.revision} again, saved as revision ${plan.revision + 1}.`,
                  })
                }
              >
                Restore it
              </LinkButton>
            )}
          </li>
        ))}
      </ul>
      <p className={`${styles.small} ${styles.quiet}`}>
        Filed names do not change with the plan:{" "}
        <Link to={`/manifests/new?folder=${plan.area}&below=true&do=plan`}>make a manifest</Link> that names them by it.
      </p>
    </section>
  );
}
