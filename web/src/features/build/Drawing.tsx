import Box from "@mui/material/Box";

interface Props {
  svg: string;
  /** how wide it is at least, and at most */
  least: number;
  most: number;
}

/** A drawing as the server makes it, in the colours of the page; on a narrow page it is moved aside. */
export const Drawing = ({ svg, least, most }: Props) => (
  <Box
    role="img"
    aria-label={/<title>([^<]*)/.exec(svg)?.[1] ?? "Drawing"}
    sx={{
      flex: `0 1 ${most}px`,
      overflowX: "auto",
      "& svg": { maxWidth: "100%", minWidth: least, height: "auto" },
    }}
    tabIndex={0}
    dangerouslySetInnerHTML={{ __html: svg }}
  />
);
