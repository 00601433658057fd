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
    words:
      "upload import open load file image photo jpg svg drop paste choose add attach browse insert put bring png gif webp pdf bitmap vector artwork graphic screenshot scan camera folder computer disk clipboard",
    at: artwork,
  },
  {
    name: "Replace the logo with a new version",
    words:
      "new logo update change rebrand swap exchange next year redesign different another refresh renew revised",
    at: artwork,
  },
  {
    name: "Make an icon of initials",
    words:
      "initials letters text monogram font type name word letter character abbreviation acronym alphabet typography typeface write typing without logo",
    at: { view: "artwork/letters" },
  },
  {
    name: "Draw a symbol",
    words:
      "symbol pictogram sign emoji clip art browse icon library shape drawing glyph clipart star heart house no logo",
    at: { view: "artwork/symbol" },
  },
  {
    name: "Use a picture that is on the site",
    words: "existing current download fetch grab scrape website page already find copy take",
    at: artwork,
  },
  {
    name: "Crop the picture",
    words:
      "crop cut frame square move position zoom drag select area wide wider tall rectangle part detail section focus pan zooming reframe framing centre center align",
    at: bench,
  },
  {
    name: "Trim it and set the margin",
    words:
      "larger smaller tiny trim padding margin whitespace space border room bigger gap spacing inset outset edge empty fit fill tab increase decrease grow shrink",
    at: bench,
  },
  {
    name: "Remove the background",
    words:
      "transparent transparency background white box alpha lift erase clear without cutout cut out knock through see-through backdrop ground isolate delete jpeg checkerboard",
    at: bench,
  },
  {
    name: "Set a background colour",
    words: "change background colour color fill solid tint backdrop ground paint filling",
    at: bench,
  },
  {
    name: "Use one colour",
    words:
      "monochrome recolour recolor ink tint flat grey black and white single mono silhouette stencil grayscale greyscale invert negative recolouring pinned",
    at: bench,
  },
  {
    name: "Round the corners",
    words:
      "round rounded circle corners radius shape badge plate tile rounding squircle disc ring soft app pill square backdrop",
    at: bench,
  },
  {
    name: "See it on light and dark tabs",
    words:
      "dark light mode night theme scheme contrast black white invert tab browser bar visible visibility vanish disappears",
    at: bench,
  },
  {
    name: "Resize it, size by size",
    words:
      "tiny resize size sizes scale resolution pixels px 16 32 48 small dimensions stretch shrink enlarge bigger smaller width height dpi retina 24 64 96 144 152 167 180 192 256 512 dots",
    at: bench,
  },
  {
    name: "Make small sizes sharp",
    words:
      "sharp sharpen blurry blur fuzzy soft unreadable pixel hand outline thin crisp clear clarity pixelated jagged edges antialias smudge washed legible readable illegible quality",
    at: bench,
  },
  {
    name: "Another picture for small sizes",
    words:
      "simplify simple emblem separate own per size small only different alternative favicon without words part detailed",
    at: bench,
  },
  {
    name: "See it on a phone's home screen",
    words:
      "phone mobile home screen tablet touch app icon launcher homescreen bookmark shortcut device preview mockup",
    at: bench,
  },
  {
    name: "Keep clear of the safe circle",
    words: "maskable mask safe zone adaptive cut off round phone clipped cropped edges circle",
    at: bench,
  },
  {
    name: "Undo the last change",
    words:
      "undo take back revert redo mistake history step go backwards reverse cancel wrong ctrl z earlier previous oops",
    at: bench,
  },
  {
    name: "Start from a proposal",
    words:
      "proposal suggestion automatic suggest idea magic ideas options alternatives choose recommend recommended variants",
    at: bench,
  },
  {
    name: "Choose which files the set has",
    words:
      "files plan set ico png svg favicon formats list which needed favourite favorite bookmark shortcut apple touch sizes bundle package include",
    at: set,
  },
  {
    name: "Convert to ICO or PNG",
    words:
      "convert conversion ico png export download save zip favicon.ico format jpg jpeg gif webp svg pdf turn into make transform files get",
    at: set,
  },
  {
    name: "Make one file for an upload field",
    words:
      "profile avatar account upload field single one file builder cms 512 logo size limit kb social media forum picture shop newsletter blog channel only just kilobytes website",
    at: set,
  },
  {
    name: "Make files smaller",
    words:
      "compress compression smaller weight bytes optimise optimize palette heavy big large too megabytes kb size reduce speed fast light",
    at: set,
  },
  {
    name: "Name and colours when installed as an app",
    words:
      "manifest pwa web app name splash theme start screen install webmanifest installable theme-color shortcut standalone label short add to home",
    at: set,
  },
  {
    name: "Compare with an earlier build",
    words:
      "compare difference version earlier previous history versions changed changes what differ side before after old new",
    at: set,
  },
  {
    name: "Copy the lines for the head",
    words:
      "html head lines code snippet link tag markup embed meta rel icon tags paste source page header template declare",
    at: set,
  },
  {
    name: "Install it on the site",
    words:
      "install publish deploy put online ftp sftp server upload host go live ssh webspace webserver hosting hoster transfer send roll out apply activate release ship",
    at: install,
  },
  {
    name: "Install by hand or with a ZIP",
    words:
      "hand manual manually zip package no access without server unzip archive download send developer colleague agency",
    at: install,
  },
  {
    name: "Undo an installation",
    words:
      "version undo take back revert remove uninstall roll back restore old icon rollback everything cancel reverse wrong broke broken before previous",
    at: install,
  },
  {
    name: "See who did what",
    words:
      "history log who changed when audit record person installed changes timeline activity journal date protocol",
    at: install,
  },
  {
    name: "Change where the site lives",
    words:
      "fingerprint host key location place server host folder ftp sftp account password credentials moved move migrate new hosting login user name ssh connection connect directory path",
    at: install,
  },
  {
    name: "Check what visitors get",
    words:
      "check test verify validate live visitors browsers works problems errors broken 404 missing not found not showing show shown appear visible error diagnose debug what wrong which icon audit scan",
    at: check,
  },
  {
    name: "I still see the old icon",
    words:
      "still see old cache cached stale refresh clear not updating wrong unchanged reload showing shows appear appears update updated results search engine bookmark outdated phone logo",
    at: check,
  },
  {
    name: "Server settings: content types and caching",
    words:
      "htaccess nginx apache mime type header headers cache control freshness caching expires max-age etag configuration config redirect",
    at: check,
  },
  {
    name: "Check automatically",
    words:
      "watch monitor automatic alert mail notify notification webhook daily weekly email warn warning regularly schedule scheduled every reminder uptime",
    at: check,
  },
  {
    name: "Try it as a returning visitor",
    words:
      "simulate simulated visitor clock time travel private window phone cache test old customers later tomorrow again",
    at: { path: "/visitor" },
  },
  {
    name: "Add a site",
    words: "add new site website domain address create start register another first client customer",
    at: sites,
  },
  {
    name: "Work on several sites at once",
    words:
      "several many bulk multiple sites all together batch websites mass clients brands every subsite multi domains",
    at: sites,
  },
  { name: "Import or export the list of sites", words: "csv import export list spreadsheet", at: sites },
  {
    name: "Remove a site",
    words: "delete remove site close end erase drop forget archive take off",
    at: sites,
  },
  {
    name: "Restore a removed site",
    words: "restore removed deleted trash bin recover undelete undo back lost",
    at: sites,
  },
  {
    name: "Add a colleague",
    words:
      "colleague user people team account invite role permission permissions share viewer editor coworker co-worker admin administrator member access rights login accounts second person read only owner remove",
    at: account,
  },
  {
    name: "Change your password",
    words: "password sign in out login logout account reset forgot forgotten change log off session profile",
    at: account,
  },
  {
    name: "Make a token for a script",
    words: "token api script key automation secret bearer access automate",
    at: account,
  },
  {
    name: "Your first icon, step by step",
    words:
      "help start tutorial first guide begin documentation docs walkthrough introduction learn beginner how",
    at: page("first-icon"),
  },
  {
    name: "Why the old icon is still shown",
    words: "still see old cache stale refresh why",
    at: page("howto/still-old"),
  },
  {
    name: "A wide logo with words",
    words: "wide wordmark long logo words text unreadable too banner horizontal name",
    at: page("howto/wide-logo"),
  },
  {
    name: "A photograph as an icon",
    words: "photo photograph picture portrait face image selfie person camera",
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
    words:
      "command line cli script pipeline ci automation terminal api cron automate automatic continuous integration deploy build server shell batch programmatic rest",
    at: page("howto/pipelines"),
  },
  {
    name: "Run Bexi for a team",
    words: "team server proxy tls https host backup restore update upgrade multi-user lan network nginx",
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
