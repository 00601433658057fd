import { Input } from "antd";
import { useDeferredValue, useState } from "react";
import { useNavigate } from "react-router";

import { useShelf } from "../../api/artwork";
import type { Site } from "../../api/client";
import { passagesWith, usePassages } from "../../api/documentation";
import { useFoundSites, useSite } from "../../api/sites";
import { Dialog } from "../Dialog";
import { VIEWS } from "../views";
import styles from "./finder.module.css";
import { controlsHere, type Found, nearest, withSome, withWords } from "./here";
import { type Task, TASKS } from "./tasks";
import { WORDS } from "./words";

const MOST = 12;
const NEAREST = 3;
const NOTHING = "Nothing has that name. These come closest.";
const SOME = "Nothing has all of these words. These have some of them.";
const IN_DOCUMENTATION = "Nothing has that name, but the documentation mentions it.";
type Props = { siteId: number | undefined; listKeys: () => void; close: () => void };

/** Finds every action of the screen, view, site, piece and word of ours, by any of its words. */
export function Finder({ siteId, listKeys, close }: Props) {
  const [typed, setTyped] = useState("");
  const [at, setAt] = useState(0);
  const [here] = useState(controlsHere);
  const sites = useFoundSites(useDeferredValue(typed.replace(/\bsites?\b/i, "").trim()));
  const current = useSite(siteId ?? 0, siteId !== undefined).data;
  const shelf = useShelf(typed, "all", 1);
  const navigate = useNavigate();
  const to = (path: string) => () => void navigate(path);
  const known = sites.data ?? [];
  const site = current;
  const pieces = (typed && site && shelf.data?.pieces) || [];
  const everything: Found[] = [
    ...here,
    ...TASKS.map((task) => taskFound(task, site, to)),
    ...(site ? viewsOf(site, to) : []),
    ...known.map(({ id, name }) => ({ name, what: "site", go: to(`/sites/${id}/bench`) })),
    ...pieces.map(({ id, title }) => ({
      name: title,
      what: "artwork",
      go: to(`/sites/${site?.id}/artwork?piece=${id}`),
    })),
    { name: "All sites", what: "view", go: to("/") },
    { name: "Simulated visitor", what: "view, a simulated browser and phone", go: to("/visitor") },
    { name: "People and account", what: "view", go: to("/account") },
    { name: "Keys", what: "every key", words: "keyboard shortcuts hotkeys hotkey", key: "?", go: listKeys },
    { name: "How it works", what: "documentation", go: () => void window.open("/docs/index.html", "_blank") },
    ...Object.entries(WORDS).map(([name, what]) => ({ name, what: `means ${what}`, go: () => undefined })),
  ];
  const whole = withWords(everything, typed);
  const partly =
    whole.length < NEAREST ? withSome(everything, typed).filter((one) => !whole.includes(one)) : [];
  const fitting = [...whole, ...partly].slice(0, MOST);
  const isNear = fitting.length === 0;
  const passages = usePassages(isNear).data ?? [];
  const read = passagesWith(passages, typed, NEAREST).map(passageFound);
  const near = isNear ? nearest(everything, typed, NEAREST) : [];
  const others = near.filter(({ name }) => !read.some((one) => one.name === name));
  const found = isNear ? [...read, ...others, DOCUMENTATION] : fitting;
  const chosen = found[Math.min(at, found.length - 1)];
  const take = (one: Found | undefined) => {
    if (!one) return;
    close();
    setTimeout(one.go); // once the dialog has given the focus back
  };
  return (
    <Dialog title="Find" close={close}>
      <Input
        autoFocus
        role="combobox"
        aria-label="An action, site, artwork or word"
        aria-expanded
        aria-controls="found"
        aria-activedescendant={chosen ? `found-${found.indexOf(chosen)}` : undefined}
        placeholder="An action, site, artwork or word"
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          const by = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
          if (by) {
            event.preventDefault();
            setAt((Math.min(at, found.length - 1) + by + found.length) % (found.length || 1));
          }
          if (event.key === "Enter") take(chosen);
        }}
      />
      <ul id="found" role="listbox" aria-label="Found" className={styles.found}>
        {found.map((one, number) => (
          <li
            key={`${one.name} ${one.what}`}
            id={`found-${number}`}
            role="option"
            aria-selected={one === chosen}
            onClick={() => take(one)}
          >
            <span>{one.name}</span>
            <span className={styles.what}>{one.what}</span>
            {one.key && <kbd className="reading">{one.key}</kbd>}
          </li>
        ))}
      </ul>
      <p role="status" className={styles.what}>
        {isNear
          ? read.length
            ? IN_DOCUMENTATION
            : NOTHING
          : whole.length
            ? "Arrows choose, Enter opens."
            : SOME}
      </p>
    </Dialog>
  );
}

/** A task is done on the site at hand; without one, a site is chosen first. */
function taskFound(
  { name, words, at }: Task,
  site: Site | undefined,
  to: (path: string) => () => void,
): Found {
  if ("page" in at)
    return { name, words, what: "documentation", go: () => void window.open(at.page, "_blank") };
  if ("path" in at) return { name, words, what: "task", go: to(at.path) };
  if (!site) return { name, words, what: "task: choose a site first", go: to("/") };
  return { name, words, what: `task for ${site.name}`, go: to(`/sites/${site.id}/${at.view}`) };
}

const passageFound = ({ location, title }: { location: string; title: string }): Found => ({
  name: title,
  what: "documentation",
  go: () => void window.open(`/docs/${location}`, "_blank"),
});

const DOCUMENTATION: Found = {
  name: "Search the documentation",
  what: "documentation",
  go: () => void window.open("/docs/index.html", "_blank"),
};

const viewsOf = ({ id, name }: Site, to: (path: string) => () => void): Found[] =>
  VIEWS.map(([path, label]) => ({ name: label, what: `view of ${name}`, go: to(`/sites/${id}/${path}`) }));
