import { Button } from "antd";
import { use, useEffect, useEffectEvent, useState } from "react";
import { Link, Outlet, useLocation, useParams } from "react-router";

import { useMe } from "../api/me";
import { takesKeys } from "./keys";
import { ModeContext } from "./mode";
import { TakeIn } from "./TakeIn";
import { skipTheBar, useArriving } from "./arriving";
import { useHandingOn } from "./focus";
import { later } from "./later";
import { Told } from "./Told";
import styles from "./shell.module.css";
import shared from "./bar.module.css";

const Finder = later(async () => (await import("./finder/Finder")).Finder);
const KeyList = later(async () => (await import("./finder/KeyList")).KeyList);

/** The bar over every view. What belongs to one site is placed into it by SiteFrame. */
export function Shell() {
  const { mode, toggleMode } = use(ModeContext);
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  const me = useMe().data;
  const account = me?.has_account ? `Account of ${me.name}` : "People";
  const [open, setOpen] = useState<"finder" | "keys">();
  const siteId = Number(useParams().siteId) || undefined;
  useArriving(useLocation().pathname);
  useHandingOn();
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    const finds = event.key.toLowerCase() === "k" && (event.ctrlKey || event.metaKey);
    if (!finds && (event.key !== "?" || takesKeys(event.target))) return;
    event.preventDefault();
    setOpen(finds ? "finder" : "keys");
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent) => onKey(event);
    addEventListener("keydown", listen);
    return () => removeEventListener("keydown", listen);
  }, []);
  return (
    <div className={styles.shell}>
      <button type="button" className={styles.skip} onClick={skipTheBar}>
        Skip to the content
      </button>
      <header className={styles.bar}>
        <Link to="/" className={styles.mark} aria-label="Bexi, all sites">
          bexi
        </Link>
        <div ref={setSlot} className={styles.slot} />
        <Link to="/visitor" className={`${styles.standIn} ${styles.visitor}`}>
          Simulated visitor
        </Link>
        <Button
          className={shared.quiet ?? ""}
          size="small"
          onClick={() => setOpen("finder")}
          title="Ctrl or ⌘ K"
        >
          Find
        </Button>
        <Button
          className={shared.quiet ?? ""}
          size="small"
          aria-label="Keys and help"
          title="Keys and help: ?"
          onClick={() => setOpen("keys")}
        >
          ?
        </Button>
        <Link to="/account" className={styles.standIn} aria-label={account} title={account}>
          {me?.has_account ? me.name : "People"}
        </Link>
        <Button
          className={styles.barButton ?? ""}
          type="text"
          icon={<ModeSign dark={mode === "light"} />}
          aria-label={mode === "light" ? "Switch to the dark theme" : "Switch to the light theme"}
          onClick={toggleMode}
        />
      </header>
      <Told />
      <TakeIn>
        <Outlet context={slot} />
      </TakeIn>
      {open === "finder" && (
        <Finder siteId={siteId} listKeys={() => setOpen("keys")} close={() => setOpen(undefined)} />
      )}
      {open === "keys" && <KeyList close={() => setOpen(undefined)} />}
    </div>
  );
}

/** A moon, or a sun. */
const ModeSign = ({ dark }: { dark: boolean }) => (
  <svg
    width="16"
    height="16"
    viewBox="0 0 24 24"
    fill="none"
    stroke="currentColor"
    strokeWidth="2"
    aria-hidden
  >
    <path
      d={
        dark
          ? "M12 3a9 9 0 1 0 9 9 7 7 0 0 1-9-9z"
          : "M8 12a4 4 0 1 0 8 0 4 4 0 1 0-8 0M12 2v3m0 14v3M2 12h3m14 0h3M5 5l2 2m10 10 2 2M5 19l2-2M17 7l2-2"
      }
    />
  </svg>
);
