/**
 * The page on the device: once a view of the field is opened, its scripts are kept there and it opens without a
 * connection. Browsers allow that only over https, or on the same machine.
 */
let asked = false;

export function keepForTheField(): void {
  if (asked || !("serviceWorker" in navigator)) return;
  asked = true;
  navigator.serviceWorker.register("/sw.js").catch(() => undefined); // a browser that keeps nothing: as before
}
