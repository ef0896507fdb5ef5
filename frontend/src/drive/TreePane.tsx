import { type ReactNode, useLayoutEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { SAY } from "../ui/wording";
import { TagDrops } from "./TagDrops";
import { FolderTree, type TreeProps } from "./Tree";

/** The folders, and below them the ways to what is gathered from all of them. */
export function TreePane(props: Omit<TreeProps, "height">): ReactNode {
  const pane = useRef<HTMLElement>(null);
  const foot = useRef<HTMLDivElement>(null);
  const [height, setHeight] = useState(400);
  useLayoutEffect(() => {
    const watch = new ResizeObserver(() =>
      setHeight(Math.max((pane.current?.clientHeight ?? 0) - (foot.current?.offsetHeight ?? 0) - ABOVE, LEAST)),
    );
    for (const box of [pane.current, foot.current]) if (box) watch.observe(box);
    return () => watch.disconnect();
  }, []);
  return (
    <nav className="tree-pane" aria-label="Folders" ref={pane}>
      <Link to="/drive" className="tree-all" aria-current={props.current === null ? "page" : undefined}>
        All areas
      </Link>
      <FolderTree {...props} height={height} />
      <div ref={foot} className="tree-foot">
        <p className="tree-links">
          <Link to="/shared">Shared</Link>
          <Link to="/lately">{SAY.latelyWorkedOn}</Link>
          <Link to="/tags">Tags</Link>
          <Link to="/discards">Discards</Link>
        </p>
        <TagDrops />
      </div>
    </nav>
  );
}

// a few folders, however low the window is
const LEAST = 120;
// the room above the first folder
const ABOVE = 40;
