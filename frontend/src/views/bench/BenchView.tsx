import { useQueryClient } from "@tanstack/react-query";
import { Button, Empty } from "antd";
import { useState } from "react";
import { Link } from "react-router";

import { useArtwork, useDraft } from "../../api/queries";
import { Loading } from "../../app/Loading";
import { ProblemNotice } from "../../app/ProblemNotice";
import { useSite } from "../../app/SiteFrame";
import { Bench } from "./Bench";

export function BenchView() {
  const site = useSite();
  const queries = useQueryClient();
  const draft = useDraft(site.id);
  const artwork = useArtwork(draft.data?.artwork_id);
  const [opened, setOpened] = useState(0);
  if (draft.isPending || artwork.isLoading) return <Loading what="Setting up the bench" />;
  const problem = draft.error ?? artwork.error;
  if (problem) return <ProblemNotice problem={problem} retry={() => void draft.refetch()} />;
  if (!draft.data || !artwork.data) {
    return (
      <main style={{ padding: 64 }}>
        <Empty description={`Nothing is on the bench for ${site.name} yet. Choose or drop an artwork first.`}>
          <Link to={`/sites/${site.id}/artwork`}>
            <Button type="primary">Choose an artwork</Button>
          </Link>
        </Empty>
      </main>
    );
  }
  const showStored = async () => {
    await queries.invalidateQueries({ queryKey: ["draft", site.id] });
    setOpened(opened + 1);
  };
  return (
    <Bench
      key={`${draft.data.id} ${artwork.data.version} ${opened}`}
      site={site}
      artwork={artwork.data}
      draft={draft.data}
      showStored={() => void showStored()}
    />
  );
}
