import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { Fragment, useState, type ReactNode } from "react";

import { ink } from "../../app/theme";

export interface MenuEntry {
  text: string;
  onChoose: () => void;
  /** one of several of which one is on */
  checked?: boolean;
}

export interface MenuSection {
  title: string;
  entries: MenuEntry[];
}

interface Props {
  label: ReactNode;
  /** what it is called where the label alone does not tell */
  name?: string;
  /** made when it is opened */
  sections: () => MenuSection[];
  /** whether the titles of the sections are shown */
  titled?: boolean;
}

const AFTER_MENU_MS = 200; // once it has gone and the focus is back

/** A button of the bar that opens a menu. */
export function BarMenu({ label, name, sections, titled = false }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const close = () => setAnchor(null);
  const shown = anchor ? sections().filter((section) => section.entries.length > 0) : [];
  return (
    <>
      <Button
        onClick={(event) => setAnchor(event.currentTarget)}
        aria-haspopup="menu"
        aria-expanded={anchor !== null}
        {...(name ? { "aria-label": name } : {})}
        sx={{ minWidth: 0, flexShrink: 0, whiteSpace: "nowrap" }}
      >
        {label}
        <span aria-hidden>&nbsp;▾</span>
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={close}>
        {shown.map(({ title, entries }, index) => (
          <Fragment key={title}>
            {titled ? (
              <Box
                component="li"
                role="presentation"
                sx={{ px: 4, pt: index ? 3 : 0, pb: 1, fontSize: 12, color: ink("faint") }}
              >
                {title}
              </Box>
            ) : (
              index > 0 && (
                <Box component="li" role="separator" sx={{ my: 1, borderTop: `1px solid ${ink("rule")}` }} />
              )
            )}
            {entries.map(({ text, onChoose, checked }) => (
              <MenuItem
                key={text}
                {...(checked === undefined ? {} : { role: "menuitemradio", "aria-checked": checked })}
                selected={checked === true}
                sx={{ minHeight: { xs: 44, md: 32 } }}
                onClick={() => {
                  close();
                  setTimeout(onChoose, AFTER_MENU_MS);
                }}
              >
                {checked !== undefined && (
                  <Box component="span" aria-hidden sx={{ width: 18, flexShrink: 0 }}>
                    {checked ? "✓" : ""}
                  </Box>
                )}
                {text}
              </MenuItem>
            ))}
          </Fragment>
        ))}
      </Menu>
    </>
  );
}
