import type { Ref } from "react";

interface Props {
  ref: Ref<HTMLInputElement>;
  label: string;
  accept: string;
  onFile: (file: File) => void;
}

/** Opens the browser's choice of a file when it is clicked, by a button elsewhere; the same file can be taken twice. */
export function FileInput({ ref, label, accept, onFile }: Props) {
  return (
    <input
      ref={ref}
      type="file"
      accept={accept}
      aria-label={label}
      hidden
      onChange={(event) => {
        const file = event.target.files?.[0];
        if (file) onFile(file);
        event.target.value = "";
      }}
    />
  );
}
