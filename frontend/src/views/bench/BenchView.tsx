import { useQueryClient } from "@tanstack/react-query";
import { Empty } from "antd";
import { useEffect, useState } from "react";
import { useLocation, useNavigate, useParams } from "react-router";

import { useArtwork } from "../../api/artwork";
import { useDraft, useDraftById } from "../../api/drafts";
import { LoadingView } from "../../app/Loading";
import { ProblemNotice } from "../../app/ProblemNotice";
import { useSite } from "../../app/SiteFrame";
import { Bench } from "./Bench";
import { dropChanges } from "./keeper";
import { LinkButton } from "../../app/LinkButton";

/** The bench at the address of one draft; without one, that of the draft last chosen. */
export function BenchView() {
  const site = useSite();
  const { draftId } = useParams();
  const chosen = useDraft(site.id);
  if (draftId !== undefined) return <DraftOnBench key={draftId} draftId={Number(draftId)} />;
  if (chosen.isPending) return <LoadingView what="Setting up the bench" />;
  if (chosen.error) return <ProblemNotice problem={chosen.error} retry={() => void chosen.refetch()} />;
  if (chosen.data) return <Onward to={`/sites/${site.id}/bench/${chosen.data.id}`} />;
  return (
    <main style={{ padding: 64 }}>
      <Empty description={`Nothing is on the bench for ${site.name} yet. Choose or drop an artwork first.`}>
        <LinkButton to={`/sites/${site.id}/artwork`} type="primary">
          Choose an artwork
        </LinkButton>
      </Empty>
    </main>
  );
}

/** Goes on to another address, unless somebody has gone elsewhere meanwhile, which is not drawn yet. */
function Onward({ to }: { to: string }) {
  const { pathname } = useLocation();
  const navigate = useNavigate();
  useEffect(() => {
    if (window.location.pathname === pathname) void navigate(to, { replace: true });
  }, [navigate, pathname, to]);
  return null;
}

function DraftOnBench({ draftId }: { draftId: number }) {
  const site = useSite();
  const queries = useQueryClient();
  const draft = useDraftById(draftId);
  const artwork = useArtwork(draft.data?.artwork_id);
  const [opened, setOpened] = useState(0);
  const problem = draft.error ?? artwork.error;
  if (problem && !(draft.data && artwork.data))
    return <ProblemNotice problem={problem} retry={() => void draft.refetch()} />;
  // What is remembered of a draft may be older than what the server has; changes are made from the newest.
  if (!draft.data || !artwork.data || !draft.isFetchedAfterMount)
    return <LoadingView what="Setting up the bench" />;
  const showStored = async () => {
    dropChanges(draftId);
    await queries.invalidateQueries({ queryKey: ["draft-by-id", draftId] });
    setOpened(opened + 1);
  };
  return (
    <Bench
      key={`${artwork.data.id} ${artwork.data.version} ${opened}`}
      site={site}
      artwork={artwork.data}
      draft={draft.data}
      showStored={() => void showStored()}
    />
  );
}
