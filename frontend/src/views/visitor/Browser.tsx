import { Button } from "antd";

import type { OpenTab, Visitor } from "../../api/client";
import { usePutOnPhone, useVisit } from "../../api/visitor";
import { when } from "../../app/units";
import { Picture } from "./Picture";
import styles from "./browser.module.css";
import shared from "./visitor.module.css";
import type { Engine } from "./engines";

type Props = { visitor: Visitor; engine: Engine; nameOf: (address: string) => string };

/** The open pages: in a tab, as a bookmark, beside a search result, and why that icon. */
export function Browser({ visitor, engine, nameOf }: Props) {
  if (!visitor.tabs.length) {
    return <p className={shared.panel}>No page visited yet. Choose a site and press Visit.</p>;
  }
  return (
    <section className={shared.panel} aria-label="Its browser">
      <div className={styles.strip}>
        {visitor.tabs.map((tab) => (
          <span key={key(tab)} data-private={tab.private}>
            <Picture shown={tab.shown[engine]} side={16} name={nameOf(tab.address)} />
            <span>{nameOf(tab.address)}</span>
          </span>
        ))}
      </div>
      <ul className={styles.pages}>
        {visitor.tabs.map((tab) => (
          <Row key={key(tab)} tab={tab} engine={engine} name={nameOf(tab.address)} />
        ))}
      </ul>
    </section>
  );
}

const key = ({ address, private: hidden }: OpenTab) => `${address} ${String(hidden)}`;

function Row({ tab, engine, name }: { tab: OpenTab; engine: Engine; name: string }) {
  const visit = useVisit();
  const put = usePutOnPhone();
  return (
    <li>
      <div>
        <strong>
          {name}
          {tab.private && ", private window"}
        </strong>
        <p className="reading">visited {when(tab.at)} by its clock</p>
        <p className={styles.why}>{tab.shown[engine]?.why}</p>
      </div>
      <div className={styles.also}>
        <span>
          <Picture shown={tab.shown[engine]} side={16} name={`${name}, as a bookmark`} /> bookmark
        </span>
        <span>
          <Picture shown={tab.shown.search} side={24} name={`${name}, in a search result`} /> search result
        </span>
      </div>
      <div className={shared.row}>
        <Button
          size="small"
          loading={visit.isPending}
          onClick={() => visit.mutate({ address: tab.address, private: tab.private })}
        >
          Visit again<span className="unseen"> {name}</span>
        </Button>
        <Button
          size="small"
          aria-label={`Add to home screen: ${name}`}
          onClick={() => put.mutate(tab.address)}
        >
          Add to home screen
        </Button>
      </div>
    </li>
  );
}
