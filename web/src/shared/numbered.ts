/** Numbers for objects, in the order in which they are first met: a document that changes is a new object. */
const numbers = new WeakMap<object, number>();
let last = 0;

export function numberOf(object: object): number {
  let number = numbers.get(object);
  if (number === undefined) {
    number = last += 1;
    numbers.set(object, number);
  }
  return number;
}
