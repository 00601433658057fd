import { Empty, Input, Slider } from "antd";
import { use, useDeferredValue, useState } from "react";

import type { SymbolDrawing } from "../../../api/client";
import { useSymbolKinds, useSymbols } from "../../../api/artwork";
import { Loading } from "../../../app/Loading";
import { ModeContext } from "../../../app/mode";
import { useTyped } from "../../../app/typed";
import styles from "./symbolView.module.css";
import shared from "./drawing.module.css";
import { DrawingBench } from "./DrawingBench";
import { InkAndPlate } from "./InkAndPlate";
import { useDrawn } from "./useDrawn";

const FIRST: SymbolDrawing = {
  kind: "symbol",
  name: "anchor",
  ink: "#f2b84b",
  stroke: 2.5,
  plate: { shape: "rounded", colour: "#16302a", radius: 20, margin: 14 },
};

/** A plain symbol, found by a word. */
export function SymbolView() {
  const { changed, site, ready } = useDrawn("symbol");
  if (!ready) return null;
  const first = changed?.drawing?.kind === "symbol" ? changed.drawing : FIRST;
  return <Maker key={changed?.id ?? "new"} siteId={site.id} first={first} changedId={changed?.id} />;
}

type Props = { siteId: number; first: SymbolDrawing; changedId: number | undefined };

function Maker({ siteId, first, changedId }: Props) {
  const { value: symbol, type, forget } = useTyped(`symbol-${siteId}-${changedId ?? "new"}`, first);
  const change = (part: Partial<SymbolDrawing>) => type({ ...symbol, ...part });
  return (
    <DrawingBench title="Symbol" drawing={symbol} complete changedId={changedId} done={forget}>
      <SymbolSearch chosen={symbol.name} choose={(name) => change({ name })} />
      <div className={shared.field}>
        <span>Thickness of lines {symbol.stroke}</span>
        <Slider
          ariaLabelForHandle="Thickness of lines"
          min={0.5}
          max={4}
          step={0.25}
          value={symbol.stroke ?? 2}
          tooltip={{ open: false }}
          onChange={(stroke) => change({ stroke })}
        />
      </div>
      <InkAndPlate ink={symbol.ink} plate={symbol.plate} change={change} />
    </DrawingBench>
  );
}

function SymbolSearch({ chosen, choose }: { chosen: string; choose: (name: string) => void }) {
  const [words, setWords] = useState("");
  const found = useSymbols(useDeferredValue(words));
  const kinds = useSymbolKinds();
  return (
    <div className={shared.field}>
      <Input.Search
        allowClear
        aria-label="Search symbols"
        placeholder="Search by a word, like boat, tide, key"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      {found.isPending && <Loading what="Fetching the symbols" />}
      {words.trim() === "" ? (
        <div className={styles.kinds} role="group" aria-label="Symbols by kind" tabIndex={0}>
          {kinds.data?.map(({ name, symbols }) => (
            <section key={name}>
              <h2>{name}</h2>
              <Symbols label={name} symbols={symbols} chosen={chosen} choose={choose} />
            </section>
          ))}
        </div>
      ) : (
        <>
          {found.data?.length === 0 && (
            <Empty description="No symbol has that name. Try a simpler word, or clear it to browse." />
          )}
          <Symbols label={FOUND} symbols={found.data ?? []} chosen={chosen} choose={choose} />
        </>
      )}
    </div>
  );
}

/** A list of its own that scrolls; the kinds scroll together. */
const FOUND = "Symbols found";

type SymbolsProps = {
  label: string;
  symbols: { name: string; body: string }[];
  chosen: string;
  choose: (name: string) => void;
};

function Symbols({ label, symbols, chosen, choose }: SymbolsProps) {
  const { mode } = use(ModeContext);
  const colour = mode === "light" ? "#1b2420" : "#e8eee9";
  return (
    <ul className={styles.symbols} aria-label={label} tabIndex={label === FOUND ? 0 : undefined}>
      {symbols.map(({ name, body }) => (
        <li key={name}>
          <button
            type="button"
            title={name}
            aria-label={name}
            aria-pressed={name === chosen}
            onClick={() => choose(name)}
          >
            <img src={symbolPicture(body, colour)} alt="" width={24} height={24} />
          </button>
        </li>
      ))}
    </ul>
  );
}

const symbolPicture = (body: string, colour: string) =>
  `data:image/svg+xml,${encodeURIComponent(
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24" fill="none" stroke="${colour}" stroke-width="2" stroke-linecap="round" stroke-linejoin="round">${body}</svg>`,
  )}`;
