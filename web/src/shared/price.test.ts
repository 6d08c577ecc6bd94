import { describe, expect, it } from "vitest";

import { priceText, shortPrice } from "./price";

describe("a price in words", () => {
  it.each([
    [null, "price not known"],
    [undefined, "price not known"],
    [0, "nothing to buy"],
    [2.5, "2.50 USD"],
    [99.99, "99.99 USD"],
    [237.18, "237 USD"],
    [9999, "9999 USD"],
    [12345.6, "12 346 USD"],
  ])("%s is %s", (price, text) => {
    expect(priceText(price, "USD")).toBe(text);
  });

  it.each([
    [null, ""],
    [0, ""],
    [2.5, "2.50 USD"],
    [10.75, "11 USD"],
    [237.18, "237 USD"],
  ])("%s in short is %s", (price, text) => {
    expect(shortPrice(price, "USD")).toBe(text);
  });
});
