// @ts-check
// The timer that somebody runs: in the head of every page, the same in every window and on every device.

/** @typedef {{ project: string, projectName: string, task: string, taskName: string, seconds: number, stopped: string | null }} Timer */

const OFTEN = 30_000; // milliseconds after which it is asked whether another device has started or stopped it
const head = document.getElementById("timer");
const channel = "BroadcastChannel" in globalThis ? new BroadcastChannel("auxilium-timer") : null;

/** What runs, and when it began by this machine's clock. @type {{ timer: Timer, since: number } | null} */ let running =
  null;
/** @type {((task: { project: string, task: string } | null, said: string) => void)[]} */ const listeners = [];

/** Whether the timer runs on a task. @param {string} project @param {string} task */
export const runsOn = (project, task) => running?.timer.project === project && running.timer.task === task;

/** @param {(task: { project: string, task: string } | null, said: string) => void} listener told when it was started or stopped here */
export function onTimer(listener) {
  listeners.push(listener);
}

/** @param {string} project @param {string} task @returns {Promise<string>} what was done, or why it was not */
export async function startTimer(project, task) {
  const answer = await send("PUT", `/api/v1/projects/${project}/tasks/${encodeURIComponent(task)}/timer`);
  if (answer.status === 409) return askReally(answer.body.detail, () => startTimer(project, task));
  if (!answer.ok) return answer.body.errors?.[0]?.message ?? answer.body.detail ?? "The timer could not be started.";
  take(answer.body);
  return told(`The timer runs on ${answer.body.taskName}. ${answer.body.stopped ?? ""}`.trim());
}

/** @param {string} [hours] how long the work really took @returns {Promise<string>} what was done, or why it was not */
export async function stopTimer(hours) {
  const answer = await send("POST", "/api/v1/timer/stop", hours === undefined ? undefined : { hours });
  if (answer.status === 409 && answer.body.code === "forgotten") return askReally(answer.body.detail, null);
  if (answer.status === 400) return askReally(answer.body.detail ?? "", null);
  if (!answer.ok && answer.body.code !== "noTimer")
    return answer.body.detail ?? "The server does not answer, so the timer goes on: try again in a moment.";
  take(null);
  return told(answer.body.sentence ?? answer.body.detail);
}

/** @param {string} said */
function told(said) {
  channel?.postMessage("changed");
  for (const listener of listeners)
    listener(running ? { project: running.timer.project, task: running.timer.task } : null, said);
  return said;
}

/** @param {Timer | null} timer */
function take(timer) {
  const before = running?.timer;
  running = timer ? { timer, since: Date.now() - timer.seconds * 1000 } : null;
  draw();
  if (before?.task !== timer?.task || before?.project !== timer?.project)
    document.dispatchEvent(new CustomEvent("auxilium-timer"));
}

function draw() {
  if (!head) return;
  head.hidden = running === null;
  if (!running) {
    head.replaceChildren();
    return;
  }
  const { timer } = running;
  if (!head.querySelector(".timer-time") || head.dataset.of !== timer.task) {
    head.dataset.of = timer.task;
    const link = document.createElement("a");
    link.href = `/projects/${timer.project}#${timer.task}`;
    link.textContent = timer.taskName;
    link.title = `${timer.taskName}, ${timer.projectName}`;
    const time = document.createElement("span");
    time.className = "timer-time";
    const stop = document.createElement("button");
    stop.type = "button";
    stop.className = "button button-quiet";
    stop.textContent = "Stop timer";
    stop.addEventListener("click", () => void stopTimer().then(say));
    head.replaceChildren(time, link, stop);
  }
  tick();
}

function tick() {
  const time = head?.querySelector(".timer-time");
  if (!time || !running) return;
  const minutes = Math.max(0, Math.floor((Date.now() - running.since) / 60_000));
  const words = `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}`;
  if (time.textContent !== words) time.textContent = words;
}

/** Says in the head what the timer did, where nothing else does. @param {string} text */
function say(text) {
  if (!head || !text || head.querySelector("form")) return;
  const said = document.createElement("span");
  said.setAttribute("role", "status");
  head.hidden = false;
  head.replaceChildren(said);
  said.textContent = text;
}

/**
 * A timer that was forgotten: how long the work really took.
 * @param {string} question
 * @param {(() => Promise<string>) | null} next what is to be done once it is answered
 */
function askReally(question, next) {
  if (!head) return question;
  const form = document.createElement("form");
  const words = document.createElement("label");
  words.textContent = `${question} `;
  words.setAttribute("role", "status");
  const input = document.createElement("input");
  input.className = "input narrow";
  input.placeholder = "7.5";
  input.autocomplete = "off";
  words.append(input);
  const save = document.createElement("button");
  save.className = "button";
  save.textContent = "Save";
  form.append(words, save);
  form.addEventListener("submit", (event) => {
    event.preventDefault();
    const hours = input.value.trim();
    if (hours === "") input.focus();
    else
      void stopTimer(hours)
        .then((said) => (running === null && next ? next() : said))
        .then(say);
  });
  head.hidden = false;
  head.replaceChildren(form);
  input.focus();
  return "";
}

/** @param {string} method @param {string} path @param {object} [body] @returns {Promise<{ ok: boolean, status: number, body: any }>} */
async function send(method, path, body) {
  try {
    const answer = await fetch(path, {
      method,
      headers: { "Content-Type": "application/json", "X-Auxilium-Token": head?.dataset.token ?? "" },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    return { ok: answer.ok, status: answer.status, body: await answer.json().catch(() => ({})) };
  } catch {
    return { ok: false, status: 0, body: {} };
  }
}

async function ask() {
  const answer = await fetch("/api/v1/timer").catch(() => null);
  if (!answer?.ok || head?.querySelector("form")) return;
  take(await answer.json().catch(() => null));
}

if (head) {
  void ask();
  channel?.addEventListener("message", () => void ask());
  document.addEventListener("visibilitychange", () => {
    if (!document.hidden) void ask();
  });
  setInterval(() => {
    if (!document.hidden) void ask();
  }, OFTEN);
  setInterval(tick, 1000);
}
