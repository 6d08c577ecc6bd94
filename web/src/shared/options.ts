/** What can be chosen from a list. */
export interface Option {
  value: string;
  text: string;
  group?: string;
}

/** Whether two lists offer the same, in the same order. */
export const sameOptions = (a: Option[], b: Option[]): boolean =>
  a === b ||
  (a.length === b.length &&
    a.every((option, index) => {
      const other = b[index];
      return option.value === other?.value && option.text === other.text && option.group === other.group;
    }));
