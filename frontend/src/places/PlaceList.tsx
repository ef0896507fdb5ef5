import { useQueryClient } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { client, data, type Schemas } from "../api/client";
import { askAgain } from "../api/keys";
import { useUndoAction } from "../ui/keys";
import { LinkButton } from "../ui/LinkButton";
import { useNotices, words } from "../ui/notices";
import styles from "../ui/text.module.css";
import { SAY } from "../ui/wording";

type Place = Schemas["CardOut"]["places"][number];
type Props = { places: Place[]; may: boolean };

/** A document's places: where each is, which is its home; one is taken away or made the home. */
export function PlaceList(props: Props): ReactNode {
  const queries = useQueryClient();
  const { tell } = useNotices();
  const undo = useUndoAction();
  const several = props.places.length > 1;
  const act = async (place: Place, what: "home" | "away") => {
    const path = { params: { path: { entry: place.entry } } };
    try {
      if (what === "home") await data(client.PUT("/api/entries/{entry}/home", path));
      else await data(client.DELETE("/api/entries/{entry}/place", path));
      tell({
        text: what === "home" ? `${place.path} is its main folder now` : `Removed from ${place.path}`,
        action: { label: SAY.undo, run: undo },
      });
      await askAgain(queries, "drive", "manifests");
    } catch (error) {
      tell({ text: words(error), bad: true });
    }
  };
  return (
    <ul className="places">
      {props.places.map((place) => (
        <li key={place.entry}>
          <Link to={`/drive/${place.folder}`}>{place.path}</Link>
          {several && place.name !== props.places[0]?.name && (
            <span className={`mono ${styles.small}`}> as {place.name}</span>
          )}
          {several && place.home && <span className={styles.quiet}> main folder</span>}
          {several && props.may && !place.home && (
            <>
              {" "}
              <LinkButton onClick={() => void act(place, "home")}>Make this the main folder</LinkButton>{" "}
              <LinkButton onClick={() => void act(place, "away")}>Remove from this folder</LinkButton>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}
