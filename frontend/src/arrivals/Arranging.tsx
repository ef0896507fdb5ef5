import { type ComponentProps, lazy, type ReactNode } from "react";
import { useUndoAction } from "../ui/keys";
import { Later } from "../ui/Later";
import { useNotices } from "../ui/notices";
import { SAY } from "../ui/wording";

const PagesDialog = lazy(() => import("../pages/PagesDialog"));
type Props = Pick<ComponentProps<typeof PagesDialog>, "arrival" | "others" | "onClose"> & {
  /** Goes to the first arrival that was made. */
  onMade: (arrival: number | null) => void;
};

/** The pages of an arrival, split and joined; what was made of them is told and can be undone. */
export function Arranging(props: Props): ReactNode {
  const { onClose, onMade, ...pages } = props;
  const { tell } = useNotices();
  const undo = useUndoAction();
  return (
    <Later onClose={onClose}>
      <PagesDialog
        {...pages}
        onClose={onClose}
        onMade={(made, from) => {
          onClose();
          const n = made.arrivals.length;
          tell({
            text: `Made ${n} arrival${n > 1 ? "s" : ""} from ${from}`,
            action: { label: SAY.undo, run: undo },
          });
          onMade(made.arrivals[0] ?? null);
        }}
      />
    </Later>
  );
}
