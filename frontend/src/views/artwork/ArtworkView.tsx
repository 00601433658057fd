import { useSearchParams } from "react-router";

import { useArtwork } from "../../api/artwork";
import { useDraft } from "../../api/drafts";
import { LoadingView } from "../../app/Loading";
import { ProblemNotice } from "../../app/ProblemNotice";
import { useSite } from "../../app/SiteFrame";
import styles from "./artworkView.module.css";
import { Piece } from "./Piece";
import { Shelf } from "./Shelf";

/** Everything one may use, and what was measured of the chosen piece. */
export function ArtworkView() {
  const site = useSite();
  const draft = useDraft(site.id);
  const [address, setAddress] = useSearchParams();
  const asked = address.get("piece");
  const chosenId = asked ? Number(asked) : draft.data?.artwork_id;
  const chosen = useArtwork(chosenId);
  if (draft.isPending) return <LoadingView what="Reading the artwork" />;
  const choose = (id: number) => setAddress({ piece: String(id) }, { replace: true });
  return (
    <main className={styles.view}>
      <h1 className="unseen">Artwork for {site.name}</h1>
      <Shelf site={site} chosenId={chosenId} choose={choose} />
      <div className={styles.side}>
        {chosen.error && <ProblemNotice problem={chosen.error} />}
        {chosen.data ? (
          <Piece key={chosen.data.id} artwork={chosen.data} site={site} draft={draft.data ?? null} />
        ) : (
          !chosen.isLoading && (
            <p className={styles.hint}>
              Choose a picture to see how well it suits icons. You can also drop one anywhere, or paste it.
            </p>
          )
        )}
      </div>
    </main>
  );
}
