/** Choices that are called what they are. */
export const options = (...values: string[]): { value: string; label: string }[] =>
  values.map((value) => ({ value, label: value }))
