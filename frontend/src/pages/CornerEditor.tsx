import { type KeyboardEvent, type PointerEvent, type ReactNode, useRef, useState } from "react";
import type { Corners } from "./arrangement";

type Props = { arrival: number; page: number; corners: Corners; onChange: (corners: Corners) => void };

const NAMES = ["Top left", "Top right", "Bottom right", "Bottom left"];
const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

const within = (value: number) => Math.min(Math.max(Math.round(value * 1000) / 1000, 0), 1);

/** A photo as it came, with the four corners of its sheet to be moved by mouse or by arrow keys. */
export function CornerEditor(props: Props): ReactNode {
  const frame = useRef<HTMLDivElement>(null);
  // without its picture the frame has no size that corners could be put by
  const [loaded, setLoaded] = useState(false);
  const put = (which: number, x: number, y: number) =>
    props.onChange(props.corners.map((corner, n) => (n === which ? [within(x), within(y)] : corner)));
  const drag = (which: number) => (event: PointerEvent<HTMLButtonElement>) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
    const box = frame.current?.getBoundingClientRect();
    if (box) put(which, (event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  };
  const press = (which: number) => (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    const corner = props.corners[which];
    if (!step || !corner || event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    const by = event.shiftKey ? 0.02 : 0.004;
    put(which, corner[0] + step[0] * by, corner[1] + step[1] * by);
  };
  return (
    <div ref={frame} className="corner-editor">
      <img
        src={`/api/documents/${props.arrival}/pages/${props.page}/uncut`}
        alt="As it came, uncut"
        draggable={false}
        onLoad={() => setLoaded(true)}
      />
      <svg viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden="true">
        <polygon points={props.corners.map(([x, y]) => `${x * 100},${y * 100}`).join(" ")} />
      </svg>
      {(loaded ? props.corners : []).map(([x, y], which) => (
        <button
          key={NAMES[which]}
          type="button"
          className="corner"
          aria-label={`${NAMES[which]} corner: ${Math.round(x * 100)} % across, ${Math.round(y * 100)} % down. Move it by arrow keys.`}
          style={{ left: `${x * 100}%`, top: `${y * 100}%` }}
          onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
          onPointerMove={drag(which)}
          onKeyDown={press(which)}
        />
      ))}
    </div>
  );
}
