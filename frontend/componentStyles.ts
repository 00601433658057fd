import { parse } from "postcss";
import type { Plugin } from "vite";

/** Components whose styles are left out: no view uses them, nor does any component that a view uses. */
const UNUSED = [
  "affix",
  "anchor",
  "avatar",
  "badge",
  "breadcrumb",
  "calendar",
  "card",
  "carousel",
  "cascader",
  "collapse",
  "color-picker",
  "descriptions",
  "divider",
  "drawer",
  "dropdown",
  "float-btn",
  "image",
  "layout",
  "list",
  "listy",
  "masonry",
  "mentions",
  "menu",
  "otp",
  "picker",
  "popconfirm",
  "popover",
  "qrcode",
  "radio",
  "rate",
  "result",
  "ribbon",
  "skeleton",
  "splitter",
  "statistic",
  "steps",
  "table",
  "tabs",
  "tag",
  "timeline",
  "tour",
  "transfer",
  "tree",
  "typography",
];
const CONCERNS = new RegExp(`\\.ant-(?:${UNUSED.join("|")}|col-[a-z0-9]+)(?![a-z])`);

/** The component library's style sheet without the rules that concern unused components alone. */
export const componentStyles = (): Plugin => ({
  name: "component-styles",
  enforce: "pre",
  transform(code, id) {
    if (!id.endsWith("antd/dist/antd.css")) return null;
    const sheet = parse(code);
    sheet.walkRules((rule) => {
      const used = rule.selectors.filter((selector) => !CONCERNS.test(selector));
      if (used.length) rule.selectors = used;
      else rule.remove();
    });
    sheet.walkAtRules("media", (rule) => {
      if (!rule.nodes?.length) rule.remove();
    });
    return { code: sheet.toString(), map: null };
  },
});
