import { useQueryClient } from "@tanstack/react-query";
import { Button } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";

import { beginWith } from "../api/beginnings";
import { answer, type Artwork, client, type Site } from "../api/client";
import { putOnBench } from "../api/judging";
import { useSites } from "../api/sites";
import { Dialog } from "./Dialog";
import { Loading } from "./Loading";
import { siteFor } from "./matching";
import styles from "./takeIn.module.css";
import { SitePicker } from "./SitePicker";

/** Several pictures came while no site was open: each goes to the site whose name it has, unless somebody says else. */
export function Matching({ artworks, close }: { artworks: Artwork[]; close: () => void }) {
  const sites = useSites();
  return (
    <Dialog title="Which picture is for which site?" close={close} width={720}>
      {sites.data ? (
        <Pairs artworks={artworks} sites={sites.data} close={close} />
      ) : (
        <Loading what="Reading the sites" />
      )}
    </Dialog>
  );
}

type Went = { at: Site | undefined; problem?: string };

type PairsProps = { artworks: Artwork[]; sites: Site[]; close: () => void };

function Pairs({ artworks, sites, close }: PairsProps) {
  const [corrected, setCorrected] = useState<ReadonlyMap<number, Site | undefined>>(new Map());
  const correct = (artwork: Artwork, site?: Site) => setCorrected(new Map(corrected).set(artwork.id, site));
  const chosen = new Map(artworks.map(({ id, title }) => [id, siteFor(title, sites)]));
  corrected.forEach((site, id) => chosen.set(id, site));
  const [went, setWent] = useState(new Map<number, Went>());
  const [busy, setBusy] = useState(false);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const put = async (artwork: Artwork, site: Site | undefined) => {
    if (!site) return beginWith(artwork.id);
    const draft = await answer(
      client.GET("/api/sites/{site_id}/draft", { params: { path: { site_id: site.id } } }),
    );
    return putOnBench(site.id, artwork, draft);
  };
  const putAll = async () => {
    setBusy(true);
    const ended = new Map(went);
    for (const artwork of artworks) {
      if (ended.has(artwork.id) && !ended.get(artwork.id)?.problem) continue; // it is there already
      const at = chosen.get(artwork.id);
      const problem = await put(artwork, at).then(
        () => undefined,
        (cause: unknown) => (cause as Error).message,
      );
      ended.set(artwork.id, { at, ...(problem !== undefined && { problem }) });
      setWent(new Map(ended));
    }
    await queries.invalidateQueries();
    setBusy(false);
    if ([...ended.values()].some(({ problem }) => problem)) return;
    close();
    void navigate("/");
  };
  const twice = sites.filter(({ id }) => [...chosen.values()].filter((site) => site?.id === id).length > 1);
  return (
    <>
      <ul className={styles.pairs}>
        {artworks.map((artwork) => {
          const told = went.get(artwork.id);
          return (
            <li key={artwork.id}>
              <img src={`/api/artwork/${artwork.id}/picture?longest=64`} alt="" />
              <span title={artwork.title}>{artwork.title}</span>
              <SitePicker
                label={`Site of ${artwork.title}`}
                chosen={chosen.get(artwork.id)}
                choose={(site) => correct(artwork, site)}
              />
              <Button
                size="small"
                disabled={busy || chosen.get(artwork.id) === undefined}
                onClick={() => correct(artwork)}
              >
                No site
              </Button>
              <small role="status" data-tone={told?.problem ? "bad" : "good"}>
                {told && (told.problem ?? "done")}
              </small>
            </li>
          );
        })}
      </ul>
      {twice.length > 0 && (
        <p data-tone="caution">
          {twice.map(({ name }) => name).join(", ")}: more than one picture. The last one stays on the bench;
          undo leads back to those before.
        </p>
      )}
      <p>Each goes onto its site’s bench with the first proposal. Undo there brings back what was on it.</p>
      <Button type="primary" loading={busy} onClick={() => void putAll()}>
        Put {artworks.length} pictures on their sites
      </Button>
    </>
  );
}
