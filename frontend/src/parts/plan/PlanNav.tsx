import type { ReactNode } from "react";
import { NavLink } from "react-router";
import "./planNav.css";

/** The three sides of an area's plan. */
export function PlanNav(props: { area: number }): ReactNode {
  return (
    <nav className="plan-nav" aria-label="The plan of the area">
      <NavLink end to={`/plan/${props.area}`}>
        Names and places
      </NavLink>
      <NavLink to={`/plan/${props.area}/rules`}>Rules</NavLink>
      <NavLink to={`/plan/${props.area}/runs`}>Runs</NavLink>
    </nav>
  );
}
