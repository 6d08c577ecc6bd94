/** Money as people write it; whole units from a hundred on. */
const WHOLE_FROM = 100;

export function priceText(price: number | null | undefined, currency: string): string {
  if (price === null || price === undefined) return "price not known";
  if (price === 0) return "nothing to buy";
  const digits = price >= WHOLE_FROM ? 0 : 2;
  return `${price.toFixed(digits).replace(/\B(?=(\d{3})+(?!\d))/g, price >= 10_000 ? " " : "")} ${currency}`;
}
