// @ts-check
import assert from "node:assert/strict";
import { test } from "node:test";
import { ticksTo } from "../../src/Auxilium.Web/Frontend/money/charts.js";
import { lead } from "../../src/Auxilium.Web/Frontend/money/figures.js";
import { readAmount, say, shortly } from "../../src/Auxilium.Web/Frontend/money/text.js";
import { readPayment } from "../../src/Auxilium.Web/Frontend/plan/panels/costs.js";

const euro = { sign: "€", decimals: 2 };

test("amounts are read as people type them, and what is none is none", () => {
  const typed = ["1250", "1,250.50", "12,5", "12.50 €", "EUR 40", "1 250,5", "0", "0.1234", "1,000"];
  assert.deepEqual(typed.map(readAmount), [1250, 1250.5, 12.5, 12.5, 40, 1250.5, 0, 0.1234, 1000]);
  for (const none of ["", "a lot", "-4", "1.2.3", "0.12345", "12.5x"]) assert.equal(readAmount(none), null, none);
});

test("amounts are written in the organisation’s currency", () => {
  assert.deepEqual(
    [say(1250, euro), say(-25.5, euro), say(1234.567, { sign: "JPY", decimals: 0 }), say(0, euro)],
    ["1,250.00 €", "−25.50 €", "1,235 JPY", "0.00 €"],
  );
  assert.deepEqual([shortly(950.4), shortly(12_340)], ["950", "12.3k"]);
});

test("a payment is a day, an amount, and the receipt where there is one", () => {
  assert.deepEqual(readPayment("12 May 50.00 R-109"), { day: "12 May", amount: 50, receipt: "R-109" });
  assert.deepEqual(readPayment("2027-05-12 1,250"), { day: "2027-05-12", amount: 1250, receipt: null });
  assert.deepEqual(readPayment("today 12,50 €"), { day: "today", amount: 12.5, receipt: null });
  assert.deepEqual(readPayment("3 Jun -20 came back"), { day: "3 Jun", amount: -20, receipt: "came back" });
  for (const none of ["", "50", "12 50", "someday soon"]) assert.equal(readPayment(none), null, none);
});

test("an axis has round numbers, up to what is most", () => {
  assert.deepEqual(ticksTo(8794), [0, 5000, 10_000]);
  assert.deepEqual(ticksTo(38), [0, 10, 20, 30, 40]);
  assert.deepEqual(ticksTo(0), [0, 0.5, 1]);
});

test("where the project stands is said in a sentence or three", () => {
  const money = (/** @type {object} */ project) =>
    /** @type {any} */ ({
      ...euro,
      project: { budget: null, free: null, ev: null, pv: null, cpi: null, spi: null, ...project },
    });
  assert.match(lead(money({ expected: 0, spent: 0, left: 0 })), /^Nothing costs anything yet\./);
  assert.match(lead(money({ expected: 90, spent: 40, left: 50 })), /cost 90.00 €; nobody has set a budget\./);
  const over = money({
    budget: 80,
    free: -10,
    expected: 90,
    spent: 40,
    left: 50,
    ev: 36.8,
    pv: 46,
    cpi: 0.92,
    spi: 0.8,
  });
  assert.equal(
    lead(over),
    "It is expected to cost 90.00 €, 10.00 € over the budget of 80.00 €. 40.00 € are spent, and 50.00 € are left to spend. " +
      "For each 100 € spent, 92 € of planned work is done; 80% of what was planned by now is done.",
  );
});
