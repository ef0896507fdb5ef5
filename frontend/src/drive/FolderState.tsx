import type { UseQueryResult } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { isGone, type Schemas } from "../api/client";
import { ButtonLink } from "../ui/ButtonLink";
import { count } from "../ui/format";
import { LinkButton } from "../ui/LinkButton";
import { useSession } from "../ui/session";
import { Failed, Loading, Nothing } from "../ui/states";

type Folder = Schemas["FolderViewOut"];
type Props = {
  /** The areas, for who has not chosen a folder. */
  areas: UseQueryResult<unknown[]>;
  view: UseQueryResult<Folder>;
  children: (folder: Folder) => ReactNode;
};

/** The folder that one looks at, as soon as it is there; or why it is not. */
export function FolderState(props: Props): ReactNode {
  const { areas, view } = props;
  if (view.isError && (isGone(view.error) || !view.data))
    return (
      <Failed what="The folder" error={view.error} onAgain={view.refetch}>
        {isGone(view.error) && "Choose another one on the left, or ask an administrator about this address."}
      </Failed>
    );
  if (view.data) return props.children(view.data);
  if (areas.isError && !areas.data) return <Failed what="The drive" error={areas.error} onAgain={areas.refetch} />;
  if (areas.data?.length === 0) return <NoArea />;
  return <Loading />;
}

/** Where nobody made an area yet, or none is for this person. */
function NoArea(): ReactNode {
  const { me } = useSession();
  if (me.administrator)
    return (
      <Nothing title="No area yet" action={<ButtonLink to="/begin">Make areas</ButtonLink>}>
        An area is a part of the drive with a plan of its own. Nothing can be filed before there is one.
      </Nothing>
    );
  return (
    <Nothing
      title="No folder is yours to read yet"
      action={<ButtonLink to="/shared">See what was shared with you</ButtonLink>}
    >
      A keeper of an area gives you access to it, or puts you into a group that has it.
    </Nothing>
  );
}

/** What stands where a folder has no lines: what belongs there, or where to look. */
export function NoLines(props: { folder: Folder; onBelow: () => void }): ReactNode {
  const { folder } = props;
  if (folder.folders.length > 0 && folder.below > 0)
    return (
      <Nothing
        title="No documents directly here"
        action={<LinkButton onClick={props.onBelow}>Show the {count(folder.below)} below it</LinkButton>}
      />
    );
  return (
    <Nothing title={folder.folders.length > 0 ? "No documents directly here" : "This folder is empty"}>
      Documents come here when they are filed from Arrivals, or moved here.
    </Nothing>
  );
}
