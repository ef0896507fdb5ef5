// Whether a person did something since the last request: only that keeps a session awake, not what a screen asks by itself.
export const AWAKE = "X-Waka-Awake";

let touched = true;

for (const what of ["keydown", "pointerdown", "wheel"])
  window.addEventListener(
    what,
    () => {
      touched = true;
    },
    { capture: true, passive: true },
  );

/** Whether a person did something since this was asked last. */
export function wasTouched(): boolean {
  const was = touched;
  touched = false;
  return was;
}
