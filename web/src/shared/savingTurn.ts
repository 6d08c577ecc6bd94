/** Saves go one after the other, so that each builds on the number of the one before, whatever page is shown. */
let turn: Promise<unknown> = Promise.resolve();

/** Do a save once those before it are through. */
export function inTurn(save: () => Promise<void>): Promise<void> {
  const done = turn.then(save);
  turn = done.catch(() => undefined);
  return done;
}

/** When all saves that were asked for are through: what is read from then on holds them. */
export const savesDone = (): Promise<unknown> => turn;
