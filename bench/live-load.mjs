// @ts-check
// 200 people have one plan of 500 tasks open, and 20 edits a second are made on it, each by another of them: bench/run-live.
// How long an edit takes to be answered and to arrive at all others, and what a connection costs, next to a server that writes a row.
import { HttpTransportType, HubConnectionBuilder, LogLevel } from "@microsoft/signalr";
import { readFileSync } from "node:fs";

const [url = "", bare = "", pid = ""] = process.argv.slice(2);
const PEOPLE = 200;
const TASKS = 500;
const A_SECOND = 20;
const SECONDS = 30;

/** A browser without a screen: keeps its cookies. */
class Browser {
  /** @type {Map<string, string>} */ #cookies = new Map();

  get cookie() {
    return [...this.#cookies].map(([name, value]) => `${name}=${value}`).join("; ");
  }

  /** @param {string} path @param {RequestInit} [how] */
  async fetch(path, how = {}) {
    const answer = await fetch(url + path, {
      ...how,
      redirect: "manual",
      headers: { ...how.headers, Cookie: this.cookie },
    });
    for (const cookie of answer.headers.getSetCookie()) {
      const [name, value] = cookie.split(";")[0].split(/=(.*)/s);
      this.#cookies.set(name, value);
    }
    return answer;
  }

  /** What a page sends along with what changes something. */
  async token() {
    const text = await (await this.fetch("/account")).text();
    return /name="__RequestVerificationToken" type="hidden" value="([^"]+)"/.exec(text)?.[1] ?? "";
  }

  /** Sends the form of a page. @param {string} page @param {string} action @param {Record<string, string>} fields */
  async post(page, action, fields) {
    const text = await (await this.fetch(page)).text();
    const token = /name="__RequestVerificationToken" type="hidden" value="([^"]+)"/.exec(text)?.[1] ?? "";
    const answer = await this.fetch(action, {
      method: "POST",
      body: new URLSearchParams({ ...fields, __RequestVerificationToken: token }),
    });
    const to = answer.headers.get("location");
    return to ? (await this.fetch(to)).text() : answer.text();
  }
}

const organiser = new Browser();
await organiser.post("/sign-in", "/sign-in?handler=Demo", { person: "imke" });
console.log(`${PEOPLE} people come in.`);
const list = Array.from({ length: PEOPLE }, (_, i) => `Crew ${i},crew${i}@bench.example`).join("\n");
await organiser.post("/people/import", "/people/import?handler=Take", { Text: `Name,Mail\n${list}` });
/** @type {Browser[]} */ const people = [];
/** @type {string[]} */ const tokens = [];
for (let i = 0; i < PEOPLE; i++) {
  const page = `/people/crew-${i}`;
  const invited = await organiser.post(page, `${page}?handler=Invite`, { organiser: "true" });
  const link = /\/invitation\/[A-Za-z0-9_-]+/.exec(invited)?.[0] ?? "";
  const person = new Browser();
  await person.post(link, link, { Password: "twelve knots at low tide", Again: "twelve knots at low tide" });
  people.push(person);
  tokens.push(await person.token());
}

const tasks = Array.from({ length: TASKS }, (_, i) => ({ id: `t${i}`, name: `Task ${i}`, length: "2d" }));
const links = tasks.flatMap((_, i) => (i % 10 === 0 ? [] : [{ from: `t${i - 1}`, to: `t${i}` }]));
const made = await organiser.fetch("/api/v1/projects", {
  method: "POST",
  headers: { "Content-Type": "application/json", "X-Auxilium-Token": await organiser.token() },
  body: JSON.stringify({ format: "auxilium-plan/1", project: { name: "Load", start: "2027-05-03" }, tasks, links }),
});
const { id: project } = await made.json();

/** When each edit was sent, by id. @type {Map<string, number>} */ const sent = new Map();
/** @type {number[]} */ const arrivals = [];
/** @type {number[]} */ const versions = Array(PEOPLE).fill(1);
const memoryBefore = memory();
const connections = people.map((person, i) => {
  const connection = new HubConnectionBuilder()
    .withUrl(`${url}/live`, {
      skipNegotiation: true,
      transport: HttpTransportType.WebSockets,
      headers: { Cookie: person.cookie },
    })
    .configureLogging(LogLevel.None)
    .build();
  connection.on("changed", (/** @type {{ to: number, edits: string[] }} */ { to, edits }) => {
    const now = performance.now();
    versions[i] = Math.max(versions[i], to);
    for (const edit of edits) arrivals.push(now - (sent.get(edit) ?? now));
  });
  connection.on("who", () => {});
  return connection;
});
for (const connection of connections) {
  await connection.start();
  await connection.invoke("Join", project, 1);
}
await new Promise((resolve) => setTimeout(resolve, 3000));
const memoryAfter = memory();

console.log(`${A_SECOND} edits a second for ${SECONDS} s.`);
const trips = await load(async (n) => {
  const i = (n * 37) % PEOPLE;
  const id = crypto.randomUUID();
  sent.set(id, performance.now());
  const answer = await people[i].fetch(`/api/v1/projects/${project}/edits?changes=true`, {
    method: "POST",
    headers: { "Content-Type": "application/json", "X-Auxilium-Token": tokens[i] },
    body: JSON.stringify({
      id,
      baseVersion: versions[i],
      edit: { type: "setLength", task: `t${(n * 13) % TASKS}`, length: `${1 + (n % 5)}d` },
      overrule: true,
    }),
  });
  if (!answer.ok) throw new Error(`${answer.status} ${await answer.text()}`);
  await answer.arrayBuffer();
});
const bares = await load(async () => {
  const answer = await fetch(`${bare}/write`, { method: "POST", body: "a row like any other" });
  await answer.arrayBuffer();
});
await Promise.all(connections.map((connection) => connection.stop()));

const missing = sent.size * PEOPLE - arrivals.length;
console.table({
  "edit, there and back": figures(trips),
  "edit, at the others": figures(arrivals),
  "a bare row, there and back": figures(bares),
});
console.log(`Ratio to the bare row: edit ${ratio(trips, bares)}, arrival ${ratio(arrivals, bares)} (p50).`);
console.log(`${sent.size} edits, ${arrivals.length} arrivals, ${missing} missing.`);
console.log(`Memory for each connection: ${Math.round((memoryAfter - memoryBefore) / PEOPLE)} kB.`);
process.exit(missing === 0 ? 0 : 1);

/**
 * Does something so often a second, whether the last is done or not.
 * @param {(n: number) => Promise<void>} act
 * @returns {Promise<number[]>} milliseconds that each took
 */
async function load(act) {
  /** @type {Promise<number>[]} */ const all = [];
  const begin = performance.now();
  for (let n = 0; n < A_SECOND * SECONDS; n++) {
    const due = begin + (n * 1000) / A_SECOND;
    await new Promise((resolve) => setTimeout(resolve, Math.max(0, due - performance.now())));
    const from = performance.now();
    all.push(act(n).then(() => performance.now() - from));
  }
  const done = await Promise.all(all);
  // What is on its way to the others arrives.
  for (let tries = 0; tries < 100 && sent.size * PEOPLE > arrivals.length; tries++)
    await new Promise((resolve) => setTimeout(resolve, 100));
  return done;
}

/** Resident memory of the server in kB. */
function memory() {
  return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1]);
}

/** @param {number[]} times */
function figures(times) {
  const sorted = times.toSorted((a, b) => a - b);
  const at = (/** @type {number} */ part) => `${sorted[Math.floor(sorted.length * part)].toFixed(1)} ms`;
  return { p50: at(0.5), p95: at(0.95), longest: at(0.9999) };
}

/** @param {number[]} times @param {number[]} others */
function ratio(times, others) {
  const middle = (/** @type {number[]} */ all) => all.toSorted((a, b) => a - b)[Math.floor(all.length / 2)];
  return (middle(times) / middle(others)).toFixed(1);
}
