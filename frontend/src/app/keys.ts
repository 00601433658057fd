/** Whether the focused element has a use of its own for letters and arrows. */
export const takesKeys = (target: EventTarget | null) =>
  target instanceof Element &&
  target.closest(
    "input, textarea, [role=combobox], [role=listbox], [role=radio], [role=slider], [role=dialog]",
  ) !== null;
