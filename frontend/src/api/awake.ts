// Whether a person did something since the last request: only that keeps a session awake, not what a screen asks by itself.
export const AWAKE = "X-Waka-Awake";

let touched = true;

function touch(): void {
  touched = true;
}

/** Notice from now on what a person does on the page. */
export function noticeTouches(page: Window): void {
  for (const what of ["keydown", "pointerdown", "wheel"])
    page.addEventListener(what, touch, { capture: true, passive: true });
}

/** Whether a person did something since this was asked last. */
export function wasTouched(): boolean {
  const was = touched;
  touched = false;
  return was;
}
