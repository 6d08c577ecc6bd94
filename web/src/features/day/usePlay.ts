import { useEffect, useState } from "react";

const WHOLE_MS = 24_000; // for a run of any length

/** Let the play head go on by itself until the end of the run. */
export function usePlay(lengthS: number, atS: number, onAt: (timeS: number) => void) {
  const [playing, setPlaying] = useState(false);
  const [from, setFrom] = useState({ timeS: 0, clock: 0 });
  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    const step = (now: number) => {
      const to = from.timeS + ((now - from.clock) / WHOLE_MS) * lengthS;
      onAt(Math.min(to, lengthS));
      if (to >= lengthS) setPlaying(false);
      else frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [playing, from, lengthS, onAt]);
  return {
    playing,
    toggle: () => {
      setFrom({ timeS: atS >= lengthS ? 0 : atS, clock: performance.now() });
      setPlaying(!playing);
    },
    stop: () => setPlaying(false),
  };
}
