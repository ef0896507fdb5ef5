import type { ReactNode } from "react";
import { NavLink, useLocation } from "react-router";
import "./planNav.css";

/** The three sides of an area's plan. */
export function PlanNav(props: { area: number }): ReactNode {
  const { pathname } = useLocation();
  // without a number it is the plan of the first area
  const names = pathname === "/plan" ? "active" : undefined;
  return (
    <nav className="plan-nav" aria-label="The plan of the area">
      <NavLink end to={`/plan/${props.area}`} className={names} aria-current={names ? "page" : undefined}>
        Names and places
      </NavLink>
      <NavLink to={`/plan/${props.area}/rules`}>Rules</NavLink>
      <NavLink to={`/plan/${props.area}/runs`}>Runs</NavLink>
    </nav>
  );
}
