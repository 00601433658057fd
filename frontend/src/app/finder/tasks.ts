/**
 * What people come to do, by the words they would type for it. To add one, add a line: what it is called, words for it,
 * and where it is done: a view of the site at hand, a path of Bexi's, or a page of the documentation.
 */
export type Task = {
  name: string;
  words: string;
  at: { view: string } | { path: string } | { page: string };
};

const artwork = { view: "artwork" };
const bench = { view: "bench" };
const set = { view: "set" };
const install = { view: "install" };
const check = { view: "live-check" };
const sites = { path: "/" };
const account = { path: "/account" };
const page = (name: string) => ({ page: `/docs/${name}.html` });

export const TASKS: Task[] = [
  {
    name: "Add a logo or picture",
    words: "upload import open load file image photo jpg svg drop paste choose",
    at: artwork,
  },
  {
    name: "Replace the logo with a new version",
    words: "new logo update change rebrand swap exchange next year",
    at: artwork,
  },
  {
    name: "Make an icon of initials",
    words: "initials letters text monogram font type name word",
    at: { view: "artwork/letters" },
  },
  {
    name: "Draw a symbol",
    words: "symbol pictogram sign emoji clip art browse",
    at: { view: "artwork/symbol" },
  },
  {
    name: "Use a picture that is on the site",
    words: "existing current download fetch grab scrape",
    at: artwork,
  },
  { name: "Crop the picture", words: "crop cut frame square move position zoom drag select area", at: bench },
  {
    name: "Trim it and set the margin",
    words: "trim padding margin whitespace space border room bigger",
    at: bench,
  },
  {
    name: "Remove the background",
    words: "transparent transparency background white box alpha lift erase clear",
    at: bench,
  },
  { name: "Set a background colour", words: "background colour color fill solid tint", at: bench },
  {
    name: "Round the corners",
    words: "round rounded circle corners radius shape badge plate tile",
    at: bench,
  },
  { name: "See it on light and dark tabs", words: "dark light mode night theme scheme contrast", at: bench },
  {
    name: "Resize it, size by size",
    words: "resize size sizes scale resolution pixels px 16 32 48 small dimensions",
    at: bench,
  },
  {
    name: "Make small sizes sharp",
    words: "sharp sharpen blurry blur fuzzy soft unreadable pixel hand outline thin",
    at: bench,
  },
  {
    name: "Another picture for small sizes",
    words: "simplify simple emblem separate own per size small",
    at: bench,
  },
  {
    name: "See it on a phone's home screen",
    words: "phone mobile home screen tablet touch app icon launcher",
    at: bench,
  },
  {
    name: "Keep clear of the safe circle",
    words: "maskable mask safe zone adaptive cut off round phone",
    at: bench,
  },
  { name: "Undo the last change", words: "undo take back revert redo mistake history step", at: bench },
  { name: "Start from a proposal", words: "proposal suggestion automatic suggest idea magic", at: bench },
  {
    name: "Choose which files the set has",
    words: "files plan set ico png svg favicon formats list which needed",
    at: set,
  },
  {
    name: "Convert to ICO or PNG",
    words: "convert conversion ico png export download save zip favicon.ico format",
    at: set,
  },
  {
    name: "Make one file for an upload field",
    words: "upload field single one file builder cms 512 logo size limit kb",
    at: set,
  },
  {
    name: "Make files smaller",
    words: "compress compression smaller weight bytes optimise optimize palette",
    at: set,
  },
  {
    name: "Name and colours when installed as an app",
    words: "manifest pwa web app name splash theme start screen install webmanifest",
    at: set,
  },
  {
    name: "Compare with an earlier build",
    words: "compare difference version earlier previous history versions",
    at: set,
  },
  {
    name: "Copy the lines for the head",
    words: "html head lines code snippet link tag markup embed",
    at: set,
  },
  {
    name: "Install it on the site",
    words: "install publish deploy put online ftp sftp server upload host go live",
    at: install,
  },
  {
    name: "Install by hand or with a ZIP",
    words: "hand manual manually zip package no access without server",
    at: install,
  },
  {
    name: "Undo an installation",
    words: "undo take back revert remove uninstall roll back restore old icon",
    at: install,
  },
  {
    name: "Change where the site lives",
    words: "location place server host folder ftp sftp account password credentials",
    at: install,
  },
  {
    name: "Check what visitors get",
    words: "check test verify validate live visitors browsers works problems errors broken",
    at: check,
  },
  {
    name: "I still see the old icon",
    words: "still see old cache cached stale refresh clear not updating wrong unchanged reload",
    at: check,
  },
  {
    name: "Server settings: content types and caching",
    words: "htaccess nginx apache mime type header headers cache control freshness caching",
    at: check,
  },
  {
    name: "Check automatically",
    words: "watch monitor automatic alert mail notify notification webhook daily weekly",
    at: check,
  },
  {
    name: "Try it as a returning visitor",
    words: "simulate simulated visitor clock time travel private window phone cache",
    at: { path: "/visitor" },
  },
  { name: "Add a site", words: "add new site website domain address create start", at: sites },
  {
    name: "Work on several sites at once",
    words: "several many bulk multiple sites all together batch",
    at: sites,
  },
  { name: "Import or export the list of sites", words: "csv import export list spreadsheet", at: sites },
  { name: "Restore a removed site", words: "restore removed deleted trash bin recover", at: sites },
  {
    name: "Add a colleague",
    words: "colleague user people team account invite role permission permissions share viewer editor",
    at: account,
  },
  { name: "Change your password", words: "password sign in out login logout account", at: account },
  { name: "Make a token for a script", words: "token api script key automation", at: account },
  {
    name: "Your first icon, step by step",
    words: "help start tutorial first guide begin documentation docs",
    at: page("first-icon"),
  },
  {
    name: "Why the old icon is still shown",
    words: "still see old cache stale refresh why",
    at: page("howto/still-old"),
  },
  {
    name: "A wide logo with words",
    words: "wide wordmark long logo words text unreadable",
    at: page("howto/wide-logo"),
  },
  {
    name: "A photograph as an icon",
    words: "photo photograph picture portrait face",
    at: page("howto/photograph"),
  },
  {
    name: "Light and dark tabs",
    words: "dark light mode scheme theme tabs night",
    at: page("howto/dark-tabs"),
  },
  {
    name: "A header shared by all pages",
    words: "header template layout include shared php partial generator",
    at: page("howto/shared-header"),
  },
  {
    name: "A new logo next year",
    words: "new logo rebrand newer version replace update next year",
    at: page("howto/new-logo"),
  },
  {
    name: "One file for an upload field, explained",
    words: "upload field site builder one file single",
    at: page("howto/upload-field"),
  },
  { name: "Initials and letters, explained", words: "initials letters monogram", at: page("howto/letters") },
  {
    name: "A colleague who only checks",
    words: "colleague checker checks only role viewer",
    at: page("howto/checker"),
  },
  {
    name: "From a script or pipeline",
    words: "command line cli script pipeline ci automation terminal api",
    at: page("howto/pipelines"),
  },
  {
    name: "Run Bexi for a team",
    words: "team server proxy tls https host backup restore",
    at: page("howto/team-server"),
  },
  {
    name: "How icons are judged",
    words: "judge judged clear weak lost words verdict",
    at: page("explained/judging"),
  },
  { name: "Small icons by hand", words: "hand hinting grid pixels small", at: page("explained/by-hand") },
  {
    name: "What is kept safe, and how",
    words: "security safe secret passwords privacy",
    at: page("security"),
  },
];
