/** Money as people write it; whole units from a hundred on. */
const WHOLE_FROM = 100;
const WHOLE_FROM_IN_SHORT = 10;

export function priceText(price: number | null | undefined, currency: string): string {
  if (price === null || price === undefined) return "price not known";
  if (price === 0) return "nothing to buy";
  return money(price, currency, WHOLE_FROM);
}

/** The same where there is little room: nothing where there is nothing to pay or no price is known. */
export function shortPrice(price: number | null | undefined, currency: string): string {
  return price ? money(price, currency, WHOLE_FROM_IN_SHORT) : "";
}

function money(price: number, currency: string, wholeFrom: number): string {
  const digits = price >= wholeFrom ? 0 : 2;
  return `${price.toFixed(digits).replace(/\B(?=(\d{3})+(?!\d))/g, price >= 10_000 ? " " : "")} ${currency}`;
}
