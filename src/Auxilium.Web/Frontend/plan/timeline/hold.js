// @ts-check
// Follows a pointer while it holds something: from the press, past the slip that a click may have, to where it lets go. Escape, or
// the browser taking the pointer away, lets go of it as if nothing had been. A finger that moves at once scrolls; one that rests for a
// moment takes hold.

const SLIP = 6; // pixels a pointer may move in a click
const REST = 350; // milliseconds after which a finger takes hold

/**
 * @template T what is held
 * @typedef {object} Hold
 * @property {(event: PointerEvent) => T | null} grab null for nothing to hold there
 * @property {(held: T, event: PointerEvent, by: { x: number, y: number }) => void} follow
 * @property {(held: T) => void} end tidies up, whether it was dropped or not
 * @property {(held: T) => void} drop after that, where it was let go of
 */

/** @template T @param {Element} element @param {Hold<T>} hold */
export function listenToHold(element, { grab, follow, end, drop }) {
  /** @type {{ what: T, pointer: number, x: number, y: number, moving: boolean } | null} */ let held = null;

  /** @type {{ pointer: number, x: number, y: number, timer: ReturnType<typeof setTimeout> } | null} */ let resting =
    null;

  element.addEventListener("pointerdown", (event) => {
    const press = /** @type {PointerEvent} */ (event);
    if (press.button !== 0) return;
    if (press.pointerType !== "touch") {
      take(press);
      return;
    }
    giveUp();
    const timer = setTimeout(() => {
      resting = null;
      take(press);
      if (held) element.classList.add("is-held");
    }, REST);
    resting = { pointer: press.pointerId, x: press.clientX, y: press.clientY, timer };
  });
  // What a finger holds goes along with it instead of the page.
  element.addEventListener("touchmove", (event) => held && event.cancelable && event.preventDefault(), {
    passive: false,
  });
  element.addEventListener("contextmenu", (event) => held && event.preventDefault());
  document.addEventListener("pointermove", (event) => {
    if (resting?.pointer === event.pointerId && Math.hypot(event.clientX - resting.x, event.clientY - resting.y) > SLIP)
      giveUp();
    if (!held || held.pointer !== event.pointerId) return;
    const by = { x: event.clientX - held.x, y: event.clientY - held.y };
    if (!held.moving && Math.hypot(by.x, by.y) < SLIP) return;
    held.moving = true;
    follow(held.what, event, by);
  });
  document.addEventListener("pointerup", (event) => {
    giveUp();
    if (!held || held.pointer !== event.pointerId) return;
    const { what, moving } = held;
    letGo();
    if (!moving) return;
    // Letting go is not a click on what lies there.
    const swallow = (/** @type {Event} */ click) => click.stopPropagation();
    document.addEventListener("click", swallow, { capture: true, once: true });
    setTimeout(() => document.removeEventListener("click", swallow, { capture: true }));
    drop(what);
  });
  document.addEventListener("pointercancel", () => {
    giveUp();
    letGo();
  });
  document.addEventListener(
    "keydown",
    (event) => {
      if (event.key !== "Escape" || !held?.moving) return;
      event.preventDefault();
      event.stopPropagation();
      letGo();
    },
    true,
  );

  /** @param {PointerEvent} press */
  function take(press) {
    const what = grab(press);
    if (what) held = { what, pointer: press.pointerId, x: press.clientX, y: press.clientY, moving: false };
  }

  function giveUp() {
    clearTimeout(resting?.timer);
    resting = null;
  }

  function letGo() {
    element.classList.remove("is-held");
    if (!held) return;
    const { what, moving } = held;
    held = null;
    if (moving) end(what);
  }
}
