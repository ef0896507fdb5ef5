import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link, useNavigate } from "react-router";
import { client, data } from "../api/client";
import { keys } from "../api/keys";
import { useDropping } from "../places/dragging";
import { count } from "../ui/format";
import { Menu, type MenuAt } from "../ui/Menu";
import styles from "../ui/text.module.css";

// more are on the tags' own page
const SHOWN = 14;

const addressOf = (tag: string) => `/find?tag=${encodeURIComponent(tag)}`;

/** Tags below the tree: opened by a click, put on what is dropped there. */
export function TagDrops(): ReactNode {
  const tags = useQuery({ queryKey: keys.tags, queryFn: () => data(client.GET("/api/tags")) });
  const { ontoTag } = useDropping();
  const navigate = useNavigate();
  const [menu, setMenu] = useState<MenuAt | null>(null);
  const all = tags.data?.tags ?? [];
  if (!all.length) return null;
  // those that are used most, in the order of the alphabet
  const used = [...all].sort((a, b) => b.documents + b.folders - a.documents - a.folders).slice(0, SHOWN);
  return (
    <>
      <ul className="tag-drops" aria-label="Tags">
        {all
          .filter((one) => used.includes(one))
          .map((one) => (
            <li
              key={one.tag}
              {...ontoTag(one.tag)}
              onContextMenu={(event) => {
                event.preventDefault();
                const acts = [
                  { label: "Show what bears it", run: () => void navigate(addressOf(one.tag)) },
                  { label: "Rename, merge or remove…", run: () => void navigate("/tags") },
                ];
                setMenu({ left: event.clientX, top: event.clientY, title: `The tag ${one.tag}`, acts });
              }}
            >
              <Link to={addressOf(one.tag)} className="tag" draggable={false}>
                {one.tag}
              </Link>
              <span className={`${styles.quiet} ${styles.small} number`}>{count(one.documents + one.folders)}</span>
            </li>
          ))}
      </ul>
      {menu && <Menu at={menu} onClose={() => setMenu(null)} />}
    </>
  );
}
