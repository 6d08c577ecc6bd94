/** A time as people say it: minutes up to two hours, hours up to two days, then days. */
export function durationText(seconds: number): string {
  if (seconds < 7_200) return `${Math.round(seconds / 60)} min`;
  return seconds < 172_800 ? `${(seconds / 3_600).toFixed(1)} h` : `${(seconds / 86_400).toFixed(1)} days`;
}
