import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import Typography from "@mui/material/Typography";
import { useEffect, useId, useMemo, useRef, useState } from "react";

import type { Design, Pin } from "../../api/types";
import { ink } from "../../app/theme";
import { BareChoice } from "../../shared/BareChoice";
import { whatIsWrong } from "../../shared/faults";
import { named } from "../../shared/names";
import { QuantityField } from "../../shared/QuantityField";
import { Cross } from "../../shared/DeleteButton";
import type { Background } from "./useBackground";

interface Props {
  /** the picture to be laid there; null to pin the one that lies there anew */
  file: File | null;
  document: Design;
  background: Background;
  onLeave: () => void;
}

const BY_FIGURES = "";
const WIDEST_PX = 620;
const STEP_PX = 5;

interface Draft extends Pin {
  place: string;
}

/** A picture is pinned: click a point of it that is known, and say which place of the plan that is. */
export function PinDialog({ file, document, background, onLeave }: Props) {
  const title = useId();
  const own = useMemo(() => (file ? URL.createObjectURL(file) : null), [file]);
  useEffect(
    () => () => {
      if (own) URL.revokeObjectURL(own);
    },
    [own],
  );
  const address = own ?? background.picture?.address;
  const [size, setSize] = useState<{ width: number; height: number } | null>(null);
  const [unread, setUnread] = useState(false);
  const [pins, setPins] = useState<Draft[]>(() =>
    file ? [] : (background.picture?.pins ?? []).map((pin) => ({ ...pin, place: placeAt(document, pin) })),
  );
  const held = useRef<{ index: number; dx: number; dy: number } | null>(null);
  const shrink = size ? Math.min(1, WIDEST_PX / size.width) : 1;
  const free = document.places.filter((place) => !pins.some((pin) => pin.place === place.id));
  const add = (x_px: number, y_px: number) => {
    const place = free[0];
    setPins([
      ...pins,
      {
        x_px,
        y_px,
        place: place?.id ?? BY_FIGURES,
        east_m: place?.east_m ?? 0,
        north_m: place?.north_m ?? 0,
      },
    ]);
  };
  const change = (index: number, now: Partial<Draft>) =>
    setPins(pins.map((pin, other) => (other === index ? { ...pin, ...now } : pin)));
  const { keepPicture } = background;
  return (
    <Dialog open onClose={onLeave} aria-labelledby={title} maxWidth="lg">
      <Box sx={{ p: 4, display: "grid", gap: 2 }}>
        <Typography id={title} variant="h1">
          Position the picture
        </Typography>
        <Typography>
          Click a point that you know in the picture, and choose which place of the plan it is. Two are
          needed, a third tells how well they fit. Drag a pin, or use the arrow keys.
        </Typography>
        {unread && <Typography role="alert">This file cannot be shown as a picture.</Typography>}
        <Box sx={{ display: "flex", gap: 4, flexWrap: "wrap" }}>
          <Box
            sx={{
              position: "relative",
              width: size ? size.width * shrink : undefined,
              maxHeight: 420,
              overflow: "auto",
            }}
          >
            <img
              src={address}
              alt="The farm from the air"
              data-testid="picture-to-pin"
              style={{ width: size ? size.width * shrink : 10, display: "block", cursor: "crosshair" }}
              onLoad={(event) => {
                const { naturalWidth: width, naturalHeight: height } = event.currentTarget;
                setSize({ width, height });
              }}
              onError={() => setUnread(true)}
              onClick={(event) => add(event.nativeEvent.offsetX / shrink, event.nativeEvent.offsetY / shrink)}
            />
            {pins.map((pin, index) => (
              <button
                key={index}
                type="button"
                aria-label={`Pin ${index + 1}`}
                onPointerDown={(event) => {
                  event.currentTarget.setPointerCapture(event.pointerId);
                  held.current = {
                    index,
                    dx: pin.x_px - event.clientX / shrink,
                    dy: pin.y_px - event.clientY / shrink,
                  };
                }}
                onPointerMove={(event) => {
                  const own = held.current;
                  if (own?.index !== index || !size) return;
                  change(index, {
                    x_px: within(event.clientX / shrink + own.dx, size.width),
                    y_px: within(event.clientY / shrink + own.dy, size.height),
                  });
                }}
                onPointerUp={() => {
                  held.current = null;
                }}
                onKeyDown={(event) => {
                  const [dx, dy] = ARROWS[event.key] ?? [0, 0];
                  if (!dx && !dy) return;
                  event.preventDefault();
                  change(index, {
                    x_px: Math.max(0, pin.x_px + dx * STEP_PX),
                    y_px: Math.max(0, pin.y_px + dy * STEP_PX),
                  });
                }}
                style={{
                  position: "absolute",
                  left: pin.x_px * shrink - 10,
                  top: pin.y_px * shrink - 10,
                  width: 20,
                  height: 20,
                  borderRadius: 10,
                  cursor: "move",
                  touchAction: "none",
                  border: `2px solid ${ink("ink")}`,
                  background: ink("paper"),
                  color: ink("ink"),
                  fontSize: 11,
                  padding: 0,
                }}
              >
                {index + 1}
              </button>
            ))}
          </Box>
          <Box sx={{ width: 300, display: "grid", gap: 1, alignContent: "start" }}>
            {pins.map((pin, index) => (
              <Box key={index} role="group" aria-label={`Pin ${index + 1} is`}>
                <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
                  {index + 1}
                  <BareChoice
                    name={`Pin ${index + 1} is at`}
                    value={pin.place}
                    options={[
                      ...document.places.map((place) => ({ value: place.id, text: named(place) })),
                      { value: BY_FIGURES, text: "typed east and north" },
                    ]}
                    onChange={(place) => {
                      const found = document.places.find((one) => one.id === place);
                      change(index, {
                        place,
                        ...(found ? { east_m: found.east_m, north_m: found.north_m } : {}),
                      });
                    }}
                  />
                  <Cross
                    label={`Delete pin ${index + 1}`}
                    onClick={() => setPins(pins.filter((_, other) => other !== index))}
                  />
                </Box>
                {pin.place === BY_FIGURES && (
                  <Box sx={{ display: "flex", gap: 2 }}>
                    <QuantityField
                      label="East"
                      family="m"
                      digits={1}
                      value={pin.east_m}
                      onChange={(east_m) => change(index, { east_m })}
                    />
                    <QuantityField
                      label="North"
                      family="m"
                      digits={1}
                      value={pin.north_m}
                      onChange={(north_m) => change(index, { north_m })}
                    />
                  </Box>
                )}
              </Box>
            ))}
            <Button onClick={() => size && add(size.width / 2, size.height / 2)} disabled={!size}>
              Add pin
            </Button>
          </Box>
        </Box>
        {keepPicture.isError && (
          <Typography role="alert" color="error">
            {whatIsWrong(keepPicture.error)}
          </Typography>
        )}
        <Box sx={{ display: "flex", gap: 3 }}>
          <Button
            variant="contained"
            disabled={pins.length < 2 || keepPicture.isPending}
            onClick={() =>
              keepPicture.mutate(
                {
                  file,
                  pins: pins.map(({ x_px, y_px, east_m, north_m }) => ({ x_px, y_px, east_m, north_m })),
                },
                { onSuccess: onLeave },
              )
            }
          >
            Use as background
          </Button>
          <Button onClick={onLeave}>Cancel</Button>
        </Box>
      </Box>
    </Dialog>
  );
}

const within = (at: number, most: number) => Math.min(Math.max(at, 0), most);

/** The place that a pin was set to, if it still stands there. */
const placeAt = (document: Design, { east_m, north_m }: Pin) =>
  document.places.find((place) => place.east_m === east_m && place.north_m === north_m)?.id ?? BY_FIGURES;

const ARROWS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
