import { Button, Empty, Input, Pagination, Select, Upload } from "antd";
import { use, useDeferredValue, useState } from "react";
import { useLocation } from "react-router";

import type { Artwork, ShelfKind, Site } from "../../api/client";
import { useShelf } from "../../api/artwork";
import { ProblemNotice } from "../../app/ProblemNotice";
import { TakingIn } from "../../app/takingIn";
import { ArtworkPicture } from "./ArtworkPicture";
import styles from "./shelf.module.css";
import shared from "./artwork.module.css";
import { FromSite } from "./FromSite";
import { LinkButton } from "../../app/LinkButton";

const KINDS: { value: ShelfKind; label: string }[] = [
  { value: "all", label: "All artwork" },
  { value: "shapes", label: "Made of shapes" },
  { value: "pixels", label: "Made of pixels" },
  { value: "drawn", label: "Drawn in Bexi" },
  { value: "unused", label: "Not in use" },
];

type Props = { site: Site; chosenId: number | undefined; choose: (id: number) => void };

/** All pieces at hand, searched and narrowed, and the ways to get more. */
export function Shelf({ site, chosenId, choose }: Props) {
  const [search, setSearch] = useState("");
  const [kind, setKind] = useState<ShelfKind>("all");
  const [page, setPage] = useState(1);
  const shelf = useShelf(useDeferredValue(search), kind, page);
  return (
    <section className={styles.shelf} aria-label="Shelf">
      <Ways site={site} choose={choose} />
      <div className={styles.narrow}>
        <Input.Search
          allowClear
          aria-label="Search artwork"
          placeholder="Search by title, file, credit or format"
          value={search}
          onChange={(event) => {
            setSearch(event.target.value);
            setPage(1);
          }}
        />
        <Select
          aria-label="Which artwork"
          value={kind}
          options={KINDS}
          popupMatchSelectWidth={false}
          onChange={(value) => {
            setKind(value);
            setPage(1);
          }}
        />
      </div>
      {shelf.error && <ProblemNotice problem={shelf.error} retry={() => void shelf.refetch()} />}
      {shelf.data?.total === 0 && (
        <Empty
          description={
            search || kind !== "all"
              ? "No artwork matches. Search for another word."
              : "There is no artwork yet. Drop a logo or picture, or draw letters."
          }
        />
      )}
      <ul className={shared.pieces}>
        {shelf.data?.pieces.map((piece) => (
          <ShelfPiece
            key={piece.id}
            piece={piece}
            chosen={piece.id === chosenId}
            choose={() => choose(piece.id)}
          />
        ))}
      </ul>
      {shelf.data && shelf.data.total > shelf.data.page_size && (
        <Pagination
          align="center"
          current={page}
          pageSize={shelf.data.page_size}
          total={shelf.data.total}
          showSizeChanger={false}
          onChange={setPage}
        />
      )}
    </section>
  );
}

function Ways({ site, choose }: { site: Site; choose: (id: number) => void }) {
  const take = use(TakingIn);
  const asked = useLocation().state as { fromSite?: boolean } | null;
  const [fromSite, setFromSite] = useState(asked?.fromSite ?? false);
  return (
    <div className={styles.ways}>
      <p>
        <strong>Drop a logo or picture anywhere</strong>, paste it, or
      </p>
      <div className={shared.wayButtons}>
        <Upload
          multiple
          showUploadList={false}
          beforeUpload={(file) => {
            take([file]);
            return false;
          }}
        >
          <Button>Choose files</Button>
        </Upload>
        <Button onClick={() => setFromSite(true)}>Use a picture from the site</Button>
        <LinkButton to="letters">Draw letters</LinkButton>
        <LinkButton to="symbol">Draw a symbol</LinkButton>
      </div>
      {fromSite && (
        <FromSite
          site={site}
          straightOn={asked?.fromSite ?? false}
          close={() => setFromSite(false)}
          taken={choose}
        />
      )}
    </div>
  );
}

function ShelfPiece({ piece, chosen, choose }: { piece: Artwork; chosen: boolean; choose: () => void }) {
  const { facts } = piece;
  return (
    <li>
      <button type="button" className={shared.piece} aria-pressed={chosen} onClick={choose}>
        <ArtworkPicture artwork={piece} longest={320} className={shared.thumbnail ?? ""} />
        <strong title={piece.title}>{piece.title}</strong>
        <span className="reading">
          {facts.format} {facts.vector ? "shapes" : `${facts.width} × ${facts.height}`}
        </span>
        <span className="reading" title={piece.used_by.map(({ name }) => name).join(", ")}>
          {piece.used_by.length ? `on the bench of ${piece.used_by.map(({ name }) => name).join(", ")}` : " "}
        </span>
      </button>
    </li>
  );
}
