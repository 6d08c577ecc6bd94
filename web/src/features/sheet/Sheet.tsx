import Box from "@mui/material/Box";
import Tab from "@mui/material/Tab";
import Tabs from "@mui/material/Tabs";

import type { SheetProps } from "./edit";
import { LineSheet } from "./LineSheet";
import { OutletSheet } from "./OutletSheet";
import { VesselSheet } from "./VesselSheet";

/** Every figure of the plan in real fields: one tab for each vessel, line and outlet. */
export function Sheet(props: SheetProps) {
  const { document, selected, onSelect } = props;
  const vessels = (document.vessels ?? []).map((part, index) => ({
    id: part.id,
    name: part.name ?? part.id,
    kind: "vessel" as const,
    index,
  }));
  const lines = (document.lines ?? []).map((part, index) => ({
    id: part.id,
    name: part.name ?? part.id,
    kind: "line" as const,
    index,
  }));
  const outlets = (document.outlets ?? []).map((part, index) => ({
    id: part.id,
    name: part.name ?? part.id,
    kind: "outlet" as const,
    index,
  }));
  const tabs = [...vessels, ...lines, ...outlets];
  const shown = tabs.find((tab) => tab.id === selected) ?? tabs[0];
  if (!shown) return null;
  return (
    <Box
      component="section"
      aria-label="Figures"
      sx={{ height: "100%", display: "flex", flexDirection: "column" }}
    >
      <Tabs
        value={shown.id}
        onChange={(_, id: string) => onSelect(id)}
        aria-label="Parts of the plan"
        sx={{
          minHeight: 0,
          borderBottom: 1,
          borderColor: "divider",
          "& .MuiTabs-indicator": { display: "none" }, // the tabs wrap: the chosen one is underlined instead
          "& [role=tablist]": { flexWrap: "wrap" },
          "& .MuiTab-root": { minHeight: 28, py: 0, px: 2, minWidth: 0 },
          "& .Mui-selected": {
            textDecoration: "underline",
            textDecorationThickness: 2,
            textUnderlineOffset: 5,
          },
        }}
      >
        {tabs.map((tab) => (
          <Tab
            key={tab.id}
            value={tab.id}
            label={tab.name}
            id={`tab-${tab.id}`}
            aria-controls="sheet-panel"
          />
        ))}
      </Tabs>
      <Box
        role="tabpanel"
        id="sheet-panel"
        aria-labelledby={`tab-${shown.id}`}
        sx={{ flex: 1, overflowY: "auto", p: 3 }}
      >
        {shown.kind === "vessel" && <VesselSheet {...props} index={shown.index} key={shown.id} />}
        {shown.kind === "line" && <LineSheet {...props} index={shown.index} key={shown.id} />}
        {shown.kind === "outlet" && <OutletSheet {...props} index={shown.index} key={shown.id} />}
      </Box>
    </Box>
  );
}
