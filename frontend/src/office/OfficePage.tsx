import { Tabs } from "antd";
import type { ReactNode } from "react";
import { useNavigate, useParams } from "react-router";
import { useSession } from "../ui/session";
import { Nothing } from "../ui/states";
import { AreasPanel } from "./AreasPanel";
import { GroupsPanel } from "./GroupsPanel";
import { Missing } from "./Missing";
import { PeoplePanel } from "./PeoplePanel";
import { RestrictedPanel } from "./RestrictedPanel";
import { SettingsPanel } from "./SettingsPanel";
import { TrailPanel } from "./TrailPanel";
import "../ui/acts.css";
import "./office.css";

const PANELS: [string, string, () => ReactNode][] = [
  ["people", "People", () => <PeoplePanel />],
  ["groups", "Groups", () => <GroupsPanel />],
  ["areas", "Areas", () => <AreasPanel />],
  ["restricted", "Restricted folders", () => <RestrictedPanel />],
  ["settings", "Settings", () => <SettingsPanel />],
  ["trail", "Trail", () => <TrailPanel />],
  ["missing", "What is missing", () => <Missing />],
];

/** How the office is set up, for administrators: people, groups, areas, settings, and what became of them. */
export default function OfficePage(): ReactNode {
  const { me } = useSession();
  const navigate = useNavigate();
  const { panel } = useParams();
  if (!me.administrator)
    return (
      <main className="main">
        <Nothing title="This is for administrators">They add people, make groups and areas. Ask one of them.</Nothing>
      </main>
    );
  return (
    <main className="office">
      <h1>Office</h1>
      <Tabs
        activeKey={PANELS.some(([key]) => key === panel) ? panel : "people"}
        destroyOnHidden
        animated={false}
        onChange={(key) => void navigate(`/office/${key}`)}
        items={PANELS.map(([key, label, show]) => ({
          key,
          label,
          children: <div className="office-panel">{show()}</div>,
        }))}
      />
    </main>
  );
}
