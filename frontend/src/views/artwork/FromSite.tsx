import { Alert, Empty } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";

import { useAddFromSite, usePicturesOnSite } from "../../api/artwork";
import { isLooking, troubleOf, useCheck, useChecks } from "../../api/checks";
import type { Artwork, PictureOnSite, Site } from "../../api/client";
import { useDraft } from "../../api/drafts";
import { useJudged, usePutOnBench } from "../../api/judging";
import { Dialog } from "../../app/Dialog";
import { HowFar } from "../../app/HowFar";
import { Loading } from "../../app/Loading";
import styles from "./fromSite.module.css";
import shared from "./artwork.module.css";

type Props = { site: Site; straightOn: boolean; close: () => void; taken: (id: number) => void };

/** Pictures the site has already, in its folder or on its pages; `straightOn` puts the one that is taken on the bench. */
export function FromSite({ site, straightOn, close, taken }: Props) {
  const pictures = usePicturesOnSite(site.id);
  const add = useAddFromSite(site.id);
  const problem = add.error ?? pictures.error;
  const draft = useDraft(site.id);
  const putOnBench = usePutOnBench();
  const navigate = useNavigate();
  const [begun, setBegun] = useState<Artwork>();
  const judged = useJudged(site.id, begun);
  const [broken, setBroken] = useState<string[]>([]); // not there, or no picture
  const found = pictures.data?.filter(({ place }) => !broken.includes(place)) ?? [];
  const goOn = async (artwork: Artwork) => {
    if (draft.data || !straightOn) {
      taken(artwork.id);
      close();
      return;
    }
    setBegun(artwork); // a site that was just begun: this is what its bench waits for
    const saved = await putOnBench(site.id, artwork, null);
    void navigate(`/sites/${site.id}/bench/${saved.id}`, { state: { proposals: true } });
  };
  const takeIn = (picture: PictureOnSite) =>
    add.mutate(picture, { onSuccess: (artwork) => void goOn(artwork) });
  return (
    <Dialog title={`Pictures of ${site.name}`} width={720} close={close}>
      {problem && <Alert type="error" showIcon title={problem.message} style={{ marginBottom: 12 }} />}
      <Now site={site} />
      {begun && <HowFar judged={judged} />}
      {pictures.isPending && <Loading what="Looking through the site" />}
      {pictures.data && found.length === 0 && (
        <Empty description="No picture was found. Enter the site's place or address on the Install view." />
      )}
      <ul className={shared.pieces}>
        {found.map((picture, position) => (
          <li key={picture.place}>
            <button
              type="button"
              className={shared.piece}
              disabled={add.isPending || begun !== undefined}
              onClick={() => takeIn(picture)}
            >
              <span className={`clear-ground ${shared.thumbnail}`}>
                <img
                  src={thumbnailAddress(site, picture)}
                  alt=""
                  loading="lazy"
                  onError={() => setBroken([...broken, picture.place])}
                />
              </span>
              {picture.why && (
                <strong className={styles.reason}>
                  {position === 0 ? `Likeliest: ${picture.why}` : picture.why}
                </strong>
              )}
              <span className={`reading ${styles.place}`}>
                {picture.source === "drawn" ? "the home page itself" : picture.place}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}

/** The icons the site has now, in one line: how many things are wrong, and the worst of them. */
function Now({ site }: { site: Site }) {
  const checks = useChecks(site.id, Boolean(site.address));
  const latest = checks.data?.[0];
  const check = useCheck(latest && !isLooking(latest) ? latest.id : undefined);
  if (!latest) return null;
  if (isLooking(latest) || check.isLoading) return <p role="status">Checking its current icons …</p>;
  const report = check.data?.report;
  if (!report)
    return (
      <p role="status">
        Its current icons have not been checked. {troubleOf(latest) || check.error?.message}
      </p>
    );
  const wrong = report.findings.filter((finding) => finding.wrong);
  return (
    <div role="status" className={styles.now}>
      {wrong.length ? "Problems with its current icons:" : "No problems found with its current icons."}
      <ul>
        {wrong.slice(0, 3).map(({ what, evidence }) => (
          <li key={`${what}${evidence}`}>
            <strong>{what}</strong>, {evidence}
          </li>
        ))}
      </ul>
    </div>
  );
}

const thumbnailAddress = (site: Site, picture: PictureOnSite) =>
  `/api/sites/${site.id}/pictures/thumbnail?${new URLSearchParams({ source: picture.source, place: picture.place })}`;
