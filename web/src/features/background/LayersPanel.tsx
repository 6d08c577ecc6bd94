import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useRef, useState } from "react";

import type { ReachAsked } from "../../api/client";
import type { Catalogue, Design } from "../../api/types";
import { FileInput } from "../../shared/FileInput";
import { Choice } from "../../shared/Choice";
import { whatIsWrong } from "../../shared/faults";
import { named } from "../../shared/names";
import { usePreferences, type Layer } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { figure, quantityText } from "../../shared/units";
import type { Background } from "./useBackground";

interface Props {
  document: Design;
  /** the vessels that give water */
  givers: string[];
  catalogue: Catalogue | undefined;
  background: Background;
  reachAsked: ReachAsked | null;
  /** how far from water stock are kept on the day shown [m] */
  limitM: number | null;
  onReach: (asked: ReachAsked | null) => void;
  /** a picture is to be pinned; null for the one that lies there */
  onPicture: (file: File | null) => void;
  onHose: (metres: number | null) => void;
  onDone: () => void;
}

const SYSTEMS = [
  { value: "", text: "as the file says" },
  { value: "local", text: "metres of this plan" },
  { value: "wgs84", text: "degrees, WGS 84" },
];

/** What is shown under and over the plan, and where it comes from. */
export function LayersPanel(props: Props) {
  const { document, givers, catalogue, background, reachAsked, limitM, onReach } = props;
  const { relief, picture, keepRelief, forgetRelief, forgetPicture } = background;
  const units = usePreferences((state) => state.system);
  const metres = (value: number, digits: number) => quantityText({ value, unit: "m", digits }, units);
  const [system, setSystem] = useState("");
  const grid = useRef<HTMLInputElement>(null);
  const photo = useRef<HTMLInputElement>(null);
  const sources = (document.vessels ?? []).filter((vessel) => givers.includes(vessel.id));
  const begin = ({ defaults }: Catalogue): ReachAsked => ({
    vessel: sources[0]?.id ?? "",
    product: defaults.pipe,
    flow_lpm: defaults.reach_flow_lpm,
    needs_m: defaults.reach_needs_m,
  });
  return (
    <Box
      component="section"
      aria-label="Background"
      sx={{
        height: "100%",
        overflowY: "auto",
        p: 3,
        display: "grid",
        gap: 2,
        alignContent: "start",
      }}
    >
      <Typography variant="h2">Height model</Typography>
      <Typography variant="caption">
        {relief
          ? `${relief.source}; a point every ${metres(relief.step_m, 0)}, shifted ${metres(relief.shift_m, 2)} to this plan's heights.`
          : "None yet: with one there are contours and shaded hills, new things know their ground, and what a source reaches can be shown."}
      </Typography>
      {relief ? (
        <>
          <Shown layer="relief" text="Contours and shaded hills" />
          <Button sx={{ justifySelf: "start", p: 0 }} onClick={() => forgetRelief.mutate()}>
            Delete height model
          </Button>
        </>
      ) : (
        <>
          <Choice label="The file's coordinates" value={system} options={SYSTEMS} onChange={setSystem} />
          <Button variant="outlined" onClick={() => grid.current?.click()} disabled={keepRelief.isPending}>
            Import grid file
          </Button>
          <Button
            variant="outlined"
            onClick={() => keepRelief.mutate("service")}
            disabled={keepRelief.isPending}
          >
            Ask the height service
          </Button>
        </>
      )}
      <FileInput
        ref={grid}
        label="Grid of heights"
        accept=".asc,.tif,.tiff,.txt"
        onFile={(file) => keepRelief.mutate({ file, system: system || null })}
      />
      {keepRelief.isError && (
        <Typography role="alert" color="error">
          {whatIsWrong(keepRelief.error)}
        </Typography>
      )}
      <Typography variant="h2">Picture from the air</Typography>
      {picture ? (
        <>
          <Typography variant="caption">
            Pinned by {picture.pins.length} points, the farthest off by{" "}
            {metres(Math.max(...picture.off_m), 1)}
            {picture.pins.length === 2 && " (two points fit always: a third would tell how well)"}.
          </Typography>
          <Shown layer="picture" text="The picture" />
          <Button sx={{ justifySelf: "start", p: 0 }} onClick={() => props.onPicture(null)}>
            Edit pins
          </Button>
          <Button sx={{ justifySelf: "start", p: 0 }} onClick={() => forgetPicture.mutate()}>
            Delete picture
          </Button>
        </>
      ) : (
        <Button variant="outlined" onClick={() => photo.current?.click()}>
          Add picture
        </Button>
      )}
      <FileInput
        ref={photo}
        label="Picture from the air"
        accept="image/png,image/jpeg,image/webp"
        onFile={props.onPicture}
      />
      <Typography variant="h2">Paddocks and taps</Typography>
      <Shown layer="paddocks" text="Fences" />
      <Shown
        layer="walk"
        text={
          limitM === null
            ? "Walk to water (this case has no day)"
            : `Too far from water: over ${metres(limitM, 0)}`
        }
      />
      <Shown layer="hose" text="Hose around each tap" />
      <QuantityField
        label="Hose length"
        family="m"
        digits={0}
        value={document.site.hose_m ?? null}
        hint={document.site.hose_m == null ? "none: no circles" : undefined}
        onDone={props.onDone}
        onChange={props.onHose}
        onClear={() => props.onHose(null)}
      />
      <Typography variant="h2">Ground a source can serve</Typography>
      {!relief && <Typography variant="caption">It needs a height model.</Typography>}
      {relief && !reachAsked && (
        <Button
          variant="outlined"
          disabled={!sources.length || !catalogue}
          onClick={() => catalogue && onReach(begin(catalogue))}
        >
          Show it
        </Button>
      )}
      {relief && reachAsked && (
        <>
          <Choice
            label="Source"
            value={reachAsked.vessel}
            options={sources.map((one) => ({ value: one.id, text: named(one) }))}
            onChange={(vessel) => onReach({ ...reachAsked, vessel })}
          />
          <Choice
            label="Through"
            value={reachAsked.product}
            options={(catalogue?.pipes ?? []).map((pipe) => ({
              value: pipe.id,
              text: pipe.name,
              group: pipe.family,
            }))}
            onChange={(product) => onReach({ ...reachAsked, product })}
          />
          <QuantityField
            label="Flow wanted"
            family="L/min"
            value={reachAsked.flow_lpm}
            onChange={(flow_lpm) => onReach({ ...reachAsked, flow_lpm })}
          />
          <QuantityField
            label="Pressure head wanted"
            family="m"
            digits={1}
            value={reachAsked.needs_m}
            onChange={(needs_m) => onReach({ ...reachAsked, needs_m })}
          />
          <Typography variant="caption" role="status">
            {background.reach
              ? `${figure(background.reach.share * 100, 0)} % of the ground shown, by a straight pipe on the ground without fittings, losing ${figure(background.reach.loss_m_per_100_m, 2)} % of its length in head.`
              : "Calculating …"}
          </Typography>
          <Button sx={{ justifySelf: "start", p: 0 }} onClick={() => onReach(null)}>
            Hide
          </Button>
        </>
      )}
    </Box>
  );
}

function Shown({ layer, text }: { layer: Layer; text: string }) {
  const { layers, setLayer } = usePreferences();
  return (
    <label style={{ display: "flex", gap: 8, alignItems: "center" }}>
      <input
        type="checkbox"
        checked={layers[layer]}
        onChange={(event) => setLayer(layer, event.target.checked)}
      />
      {text}
    </label>
  );
}
