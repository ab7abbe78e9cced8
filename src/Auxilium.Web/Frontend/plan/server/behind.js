// @ts-check
// Baselines and past versions of the plan that are drawn behind the bars.

/** @import { Store } from "../state/store.js" */
/** @import { Row } from "../state/types.js" */

/** How many kinds of line there are to tell them apart. */
const STYLES = 4;

/** Another record that the address asks for: version:12, baseline:b1 or day:2027-05-12. */
const asked = new URLSearchParams(globalThis.location?.search ?? "").get("behind");

/**
 * The keys of the records that a view shows. The style of a baseline stays the same, whichever others are shown.
 * @param {Store} store
 * @returns {{ key: string, name: string, style: number }[]}
 */
function wantedBy({ view, project }) {
  const shown = view.baselines ?? (project.measure === null ? [] : [project.measure]);
  const known = project.baselines.flatMap(({ id, name }, at) =>
    shown.includes(id) ? [{ key: `baseline:${id}`, name, style: at % STYLES }] : [],
  );
  return asked === null || known.some(({ key }) => key === asked)
    ? known
    : [...known, { key: asked, name: "", style: project.baselines.length % STYLES }];
}

/** @param {Store} store @param {string} project */
export function showBehind(store, project) {
  /** What was fetched: by key, where each row was. @type {Map<string, { name: string, rows: Record<string, [number, number]> }>} */
  const known = new Map();
  let drawn = "";
  let baselines = store.project.baselines;
  store.subscribe(() => {
    const wanted = wantedBy(store);
    const now = JSON.stringify([wanted, store.project.measure, [...known.keys()]]);
    // A baseline that was deleted may have left its id to another.
    if (JSON.stringify(baselines) !== JSON.stringify(store.project.baselines)) known.clear();
    else if (now === drawn) return;
    baselines = store.project.baselines;
    drawn = now;
    store.behind = wanted.flatMap(({ key, name, style }) => {
      if (key === `baseline:${store.project.measure}`) return [{ key, name, style, of: plannedOf }];
      const record = known.get(key);
      return record
        ? [{ key, name: name || record.name, style, of: (/** @type {Row} */ row) => record.rows[row.id] ?? null }]
        : [];
    });
    for (const { key } of wanted) if (!known.has(key) && key !== `baseline:${store.project.measure}`) void ask(key);
    store.changed();
  });

  /** Being fetched. @type {Set<string>} */ const asking = new Set();

  /** @param {string} key */
  async function ask(key) {
    if (asking.has(key)) return;
    asking.add(key);
    const answer = await fetch(`/api/v1/projects/${project}/snapshots/${encodeURIComponent(key)}`).catch(() => null);
    const body = await answer?.json().catch(() => null);
    asking.delete(key);
    if (answer?.ok && body) known.set(key, { name: body.title, rows: body.rows });
    else {
      // It is not asked for again and again.
      known.set(key, { name: "", rows: {} });
      store.tell(
        body?.detail ?? "The server does not answer, so what the plan was is not shown behind it: reload the page.",
      );
    }
    store.changed();
  }
}

/** @param {Row} row @returns {[number, number] | null} */
const plannedOf = ({ plannedStart, plannedFinish }) =>
  plannedStart === null || plannedFinish === null ? null : [plannedStart, plannedFinish];
