/** Points in metres put into a frame of pixels, with one scale for both axes and north up. */
export interface Frame {
  width: number;
  height: number;
}

export interface Edge {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** Where metres east and north lie in pixels. */
export interface Scale {
  perMetre: number;
  x: (eastM: number) => number;
  y: (northM: number) => number;
}

export function fitScale(points: readonly (readonly [number, number])[], frame: Frame, edge: Edge): Scale {
  const east = points.map(([x]) => x);
  const north = points.map(([, y]) => y);
  const [lowE, highE, lowN, highN] = [
    Math.min(...east),
    Math.max(...east),
    Math.min(...north),
    Math.max(...north),
  ];
  const spanE = Math.max(1, highE - lowE);
  const spanN = Math.max(1, highN - lowN);
  const roomX = Math.max(10, frame.width - edge.left - edge.right);
  const roomY = Math.max(10, frame.height - edge.top - edge.bottom);
  const perMetre = Math.min(roomX / spanE, roomY / spanN);
  const left = edge.left + (roomX - spanE * perMetre) / 2;
  const top = edge.top + (roomY - spanN * perMetre) / 2;
  return {
    perMetre,
    x: (eastM: number) => left + (eastM - lowE) * perMetre,
    y: (northM: number) => top + (highN - northM) * perMetre,
  };
}
