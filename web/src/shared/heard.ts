/** Style of what is there for those who hear the page, and takes no room for those who see it. */
export const HEARD = {
  position: "absolute",
  width: "1px",
  height: "1px",
  overflow: "hidden",
  clipPath: "inset(50%)",
} as const;
