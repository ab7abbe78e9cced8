// @ts-check
// Brings a picture in line with a list of shapes. Shapes have keys, so that a shape that moves is the same element and glides.

const NAMESPACE = "http://www.w3.org/2000/svg";

/**
 * @typedef {object} Shape
 * @property {string} key
 * @property {string} tag
 * @property {Record<string, string | number>} at attributes
 * @property {string} [text]
 * @property {Shape[]} [parts]
 */

/** @param {string} tag @returns {SVGElement} */
export const svgElement = (tag) => document.createElementNS(NAMESPACE, tag);

/** @type {WeakMap<Element, Map<string, { element: SVGElement, at: Record<string, string | number> }>>} */
const drawn = new WeakMap();

/** @param {Element} parent @param {Shape[]} shapes */
export function patch(parent, shapes) {
  const known = drawn.get(parent) ?? new Map();
  drawn.set(parent, known);
  const wanted = new Set(shapes.map((shape) => shape.key));
  for (const [key, { element }] of known) {
    if (wanted.has(key)) continue;
    element.remove();
    known.delete(key);
  }
  for (const shape of shapes) {
    let entry = known.get(shape.key);
    if (!entry) {
      entry = { element: svgElement(shape.tag), at: {} };
      known.set(shape.key, entry);
      parent.append(entry.element);
    }
    for (const name of Object.keys(entry.at)) if (!(name in shape.at)) entry.element.removeAttribute(name);
    for (const [name, value] of Object.entries(shape.at))
      if (entry.at[name] !== value) entry.element.setAttribute(name, String(value));
    entry.at = shape.at;
    if (shape.text !== undefined && entry.element.textContent !== shape.text) entry.element.textContent = shape.text;
    if (shape.parts) patch(entry.element, shape.parts);
  }
}
