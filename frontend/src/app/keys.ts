const TEXT =
  "input:not([type=radio], [type=checkbox], [type=range], [type=button], [type=color], [type=file]), textarea, [contenteditable=true]";

/** Whether one types text there, which has its own use for letters, and its own undoing. */
export const takesText = (target: EventTarget | null) =>
  target instanceof Element && target.closest(TEXT) !== null;

/** Whether keys mean something else there: text, a list that is chosen from by letters, a dialog. */
export const takesKeys = (target: EventTarget | null) =>
  takesText(target) ||
  (target instanceof Element && target.closest("[role=combobox], [role=listbox], [role=dialog]") !== null);
