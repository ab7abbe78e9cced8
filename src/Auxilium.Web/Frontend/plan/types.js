// @ts-check
// Shapes of what the server sends. Times are whole minutes since 0001-01-01T00:00 on the organisation's wall clock.

/**
 * @typedef {object} Row
 * @property {string} id
 * @property {string} no outline number; empty while the row is not saved
 * @property {string} name
 * @property {number} level
 * @property {string | null} parent
 * @property {"task" | "milestone" | "phase"} kind
 * @property {string} length
 * @property {string | null} owner
 * @property {number} helpers
 * @property {string} after
 * @property {number | null} start null while the row is not saved
 * @property {number} finish
 * @property {number | null} doneTo null when nothing is done
 * @property {number | null} lateFinish
 * @property {string | null} spare
 * @property {number} progress
 * @property {boolean} critical
 * @property {string | null} state
 * @property {boolean} started
 * @property {string | null} waitsFor
 * @property {string | null} fixed
 * @property {boolean} pinned
 * @property {string | null} warning
 * @property {boolean} [unsaved]
 */

/** @typedef {{ from: string, to: string, setsFinish: boolean }} Link */
/** @typedef {{ id: string, name: string, initials: string, hue: number }} Person */
/** @typedef {{ from: number, to: number, name: string | null }} Closed */
/** @typedef {{ text: string, strong: boolean }} Run */

/**
 * @typedef {object} Project
 * @property {string} name
 * @property {number} version
 * @property {number} start
 * @property {number} finish
 * @property {number | null} finishBy
 * @property {string | null} spare
 * @property {boolean} isLate
 * @property {number} today
 * @property {number} progress
 * @property {number} dayStart
 * @property {number} dayEnd
 */

/**
 * @typedef {object} Changes
 * @property {Project} project
 * @property {(Partial<Row> & { id: string })[]} rows new ones whole, of others what has changed
 * @property {string[] | null} order
 * @property {{ from: string, to: string }[] | null} links
 * @property {number[] | null} finishLinks positions of the links that set the finish
 * @property {Person[] | null} people
 * @property {Closed[] | null} closed
 * @property {boolean} canUndo
 * @property {boolean} canRedo
 * @property {Run[]} sentence
 * @property {number} moved how many tasks the newest edit moved
 */

/** @typedef {{ task: string, startBefore: string, finishBefore: string, startAfter: string, finishAfter: string, shift: string, why: string }} Move */
/** @typedef {{ sentence: Run[], moves: Move[] }} Ripple */

/** A cell whose text is on its way or was refused.
 * @typedef {object} Draft
 * @property {string} text
 * @property {string} [problem]
 * @property {boolean} [saving]
 * @property {{ theirs: string, yours: string, by: string, resend: () => void }} [conflict]
 */

export {};
