import { MoonOutlined, SunOutlined } from "@ant-design/icons";
import { Button } from "antd";
import { use, useState } from "react";
import { Link, Outlet } from "react-router";

import { useMe } from "../api/people";
import { skipTheBar, useArriving } from "./arriving";
import { ModeContext } from "./mode";
import { TakeIn } from "./TakeIn";
import styles from "./shell.module.css";

/** The bar over every view. What belongs to one site is placed into it by SiteFrame. */
export function Shell() {
  const { mode, toggleMode } = use(ModeContext);
  const [slot, setSlot] = useState<HTMLElement | null>(null);
  const me = useMe().data;
  const account = me?.has_account ? `Account of ${me.name}` : "People";
  useArriving();
  return (
    <div className={styles.shell}>
      <button type="button" className={styles.skip} onClick={skipTheBar}>
        Skip the bar
      </button>
      <header className={styles.bar}>
        <Link to="/" className={styles.mark} aria-label="Bexi, all sites">
          bexi
        </Link>
        <div ref={setSlot} className={styles.slot} />
        <Link to="/visitor" className={styles.standIn}>
          Stand-in visitor
        </Link>
        <a
          href="/docs/index.html"
          target="_blank"
          rel="noreferrer"
          className={styles.sign}
          aria-label="How it works"
          title="How it works"
        >
          ?
        </a>
        <Link to="/account" className={styles.standIn} aria-label={account} title={account}>
          {me?.has_account ? me.name : "People"}
        </Link>
        <Button
          className={styles.barButton ?? ""}
          type="text"
          icon={mode === "light" ? <MoonOutlined /> : <SunOutlined />}
          aria-label={mode === "light" ? "Switch to the dark theme" : "Switch to the light theme"}
          onClick={toggleMode}
        />
      </header>
      <TakeIn>
        <Outlet context={slot} />
      </TakeIn>
    </div>
  );
}
