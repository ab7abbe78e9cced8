// @ts-check
// A field for a day, typed as people type it: the server reads it.

/**
 * @param {HTMLInputElement} input
 * @param {(day: string) => void} take a day as YYYY-MM-DD; nothing where the field was emptied
 * @param {() => string} [near] the day that one without a year is close to
 */
export function readDays(input, take, near = () => "") {
  let asked = 0;
  const problem = document.createElement("span");
  problem.className = "problem";
  problem.id = `${input.id || input.name}-problem`;
  problem.setAttribute("role", "alert");
  input.after(problem);
  input.addEventListener("change", () => void read());

  async function read() {
    const mine = ++asked;
    const text = input.value.trim();
    if (text === "") {
      tell("");
      take("");
      return;
    }
    const query = new URLSearchParams({ text, ...(near() ? { near: near() } : {}) });
    const answer = await fetch(`/api/v1/days?${query}`).catch(() => null);
    const body = await answer?.json().catch(() => null);
    if (mine !== asked) return;
    if (!answer?.ok) {
      tell(body?.detail ?? "The server does not answer: try again in a moment.");
      return;
    }
    input.value = body.text;
    tell("");
    take(body.day);
  }

  /** @param {string} sentence */
  function tell(sentence) {
    problem.textContent = sentence;
    input.toggleAttribute("aria-invalid", sentence !== "");
    if (sentence) {
      input.setAttribute("aria-invalid", "true");
      input.setAttribute("aria-describedby", problem.id);
    } else input.removeAttribute("aria-describedby");
  }
}
