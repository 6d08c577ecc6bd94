/** Whether the server answers, and which of its answers are kept on the device for when it does not. */
import { create } from "zustand";

const KEPT_GET = /^\/api\/(designs|catalogue|designs\/[^/]+(\/(analysis|log|looks|reach|revisions))?)$/;
const KEPT_POST =
  /^\/api\/(analyses(\/(rest|first-water|parts(\/(settings|laying))?))?|designs\/[^/]+\/(upkeep|calibration|trouble|ledger))$/;

/** Since when no answer comes from the server [ms]: what is shown is kept from before; null while it answers. */
export const useUnreached = create<{ since: number | null }>()(() => ({ since: null }));

/** Whether the answer to a request is kept at all. */
export function isKept({ method, url }: Request): boolean {
  const { pathname } = new URL(url);
  return method === "GET" ? KEPT_GET.test(pathname) : method === "POST" && KEPT_POST.test(pathname);
}
