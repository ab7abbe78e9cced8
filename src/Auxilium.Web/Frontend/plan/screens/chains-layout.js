// @ts-check
// Puts linked tasks in layers from left to right: each stands right of all that it waits for, close to their height.

export const BOX = { width: 204, height: 50 };
const GAP = { x: 64, y: 18 };
const MARGIN = 26;
const SWEEPS = 6;
const PASS = 10; // the height that a link takes up where it goes past a layer

/** @typedef {{ id: string, x: number, y: number, layer: number }} Node */

/**
 * @param {string[]} ids in the plan's order @param {{ from: string, to: string }[]} links
 * @returns {{ nodes: Map<string, Node>, routes: Map<string, { x: number, y: number }[]>, alone: Node[], width: number, height: number,
 * bottom: number }}
 * routes say, by "from>to", where a link passes the layers between; alone are those without links, below bottom
 */
export function layChains(ids, links) {
  const known = new Set(ids);
  const inside = links.filter(({ from, to }) => known.has(from) && known.has(to));
  const { before, after } = neighbours(inside);
  const linked = ids.filter((id) => before.has(id) || after.has(id));
  const layers = inLayers(linked, before, after);
  const depth = new Map(layers.flatMap((layer, at) => layer.map((id) => /** @type {[string, number]} */ ([id, at]))));
  // A link that goes past layers keeps a place free in each of them.
  const passing = new Set();
  const steps = inside.flatMap(({ from, to }) => {
    const [first, last] = [depth.get(from) ?? 0, depth.get(to) ?? 0];
    const way = [from];
    for (let at = first + 1; at < last; at++) {
      const id = passId(from, to, at);
      passing.add(id);
      layers[at].push(id);
      way.push(id);
    }
    way.push(to);
    return way.slice(1).map((id, i) => ({ from: way[i], to: id }));
  });
  const beside = neighbours(steps);
  for (let sweep = 0; sweep < SWEEPS; sweep++)
    untangle(layers, sweep % 2 === 0 ? beside.before : beside.after, sweep % 2 === 0);
  /** @type {Map<string, Node>} */ const all = new Map();
  layers.forEach((layer, i) => stack(layer, i, all, beside.before, passing));
  const nodes = new Map([...all].filter(([id]) => !passing.has(id)));
  const routes = new Map(
    inside.map(({ from, to }) => {
      const points = [];
      for (let at = (depth.get(from) ?? 0) + 1; at < (depth.get(to) ?? 0); at++) {
        const { x, y } = /** @type {Node} */ (all.get(passId(from, to, at)));
        points.push({ x, y: y + PASS / 2 });
      }
      return /** @type {[string, { x: number, y: number }[]]} */ ([`${from}>${to}`, points]);
    }),
  );
  const bottom = Math.max(0, ...[...all.values()].map((node) => node.y + BOX.height));
  const columns = Math.max(4, layers.length);
  const alone = ids
    .filter((id) => !before.has(id) && !after.has(id))
    .map((id, i) => ({
      id,
      layer: -1,
      x: xOf(i % columns),
      y: bottom + 56 + Math.floor(i / columns) * (BOX.height + GAP.y),
    }));
  const drawn = [...nodes.values(), ...alone];
  const width = Math.max(0, ...drawn.map((node) => node.x + BOX.width)) + MARGIN;
  const height = Math.max(bottom, ...drawn.map((node) => node.y + BOX.height)) + MARGIN;
  return { nodes, routes, alone, width, height, bottom };
}

/** @param {string} from @param {string} to @param {number} layer */
const passId = (from, to, layer) => `${from}>${to}#${layer}`;

/** @param {{ from: string, to: string }[]} links */
function neighbours(links) {
  /** @type {Map<string, string[]>} */ const before = new Map();
  /** @type {Map<string, string[]>} */ const after = new Map();
  for (const { from, to } of links) {
    push(after, from, to);
    push(before, to, from);
  }
  return { before, after };
}

/** @param {Map<string, string[]>} map @param {string} key @param {string} value */
function push(map, key, value) {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}

/** @param {number} layer */
const xOf = (layer) => MARGIN + layer * (BOX.width + GAP.x);

/**
 * By the longest way from a start.
 * @param {string[]} ids
 * @param {Map<string, string[]>} before
 * @param {Map<string, string[]>} after
 * @returns {string[][]}
 */
function inLayers(ids, before, after) {
  const waits = new Map(ids.map((id) => [id, before.get(id)?.length ?? 0]));
  const depth = new Map(ids.map((id) => [id, 0]));
  const ready = ids.filter((id) => waits.get(id) === 0);
  for (let at = 0; at < ready.length; at++) {
    for (const next of after.get(ready[at]) ?? []) {
      depth.set(next, Math.max(depth.get(next) ?? 0, (depth.get(ready[at]) ?? 0) + 1));
      const left = (waits.get(next) ?? 0) - 1;
      waits.set(next, left);
      if (left === 0) ready.push(next);
    }
  }
  /** @type {string[][]} */ const layers = [];
  for (const id of ids) (layers[depth.get(id) ?? 0] ??= []).push(id);
  return Array.from(layers, (layer) => layer ?? []);
}

/**
 * Orders each layer by where its neighbours in the layers beside it stand.
 * @param {string[][]} layers
 * @param {Map<string, string[]>} beside
 * @param {boolean} forward
 */
function untangle(layers, beside, forward) {
  /** @type {Map<string, number>} */ const place = new Map();
  for (const layer of layers) layer.forEach((id, i) => place.set(id, i / Math.max(1, layer.length)));
  for (const at of forward ? layers.keys() : [...layers.keys()].reverse()) {
    const layer = layers[at];
    const wanted = new Map(
      layer.map((id) => [id, mean((beside.get(id) ?? []).map((other) => place.get(other) ?? 0)) ?? place.get(id) ?? 0]),
    );
    layer.sort((a, b) => (wanted.get(a) ?? 0) - (wanted.get(b) ?? 0));
    layer.forEach((id, i) => place.set(id, i / Math.max(1, layer.length)));
  }
}

/**
 * From top to bottom, each as near as it can be to what it waits for.
 * @param {string[]} layer
 * @param {number} at
 * @param {Map<string, Node>} nodes
 * @param {Map<string, string[]>} before
 * @param {Set<string>} passing
 */
function stack(layer, at, nodes, before, passing) {
  const heightOf = (/** @type {string} */ id) => (passing.has(id) ? PASS : BOX.height);
  let free = MARGIN + 20;
  for (const id of layer) {
    const middles = (before.get(id) ?? []).flatMap((other) => {
      const node = nodes.get(other);
      return node ? [node.y + heightOf(other) / 2] : [];
    });
    const middle = mean(middles);
    const y = Math.max(free, middle === undefined ? free : middle - heightOf(id) / 2);
    nodes.set(id, { id, x: xOf(at), y, layer: at });
    free = y + heightOf(id) + (passing.has(id) ? GAP.y / 2 : GAP.y);
  }
}

/** @param {number[]} values */
const mean = (values) => (values.length > 0 ? values.reduce((a, b) => a + b) / values.length : undefined);
