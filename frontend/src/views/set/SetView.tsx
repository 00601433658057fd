import { Empty } from "antd";
import { useSearchParams } from "react-router";

import type { Build } from "../../api/client";
import { useBuilds } from "../../api/builds";
import { useDraft } from "../../api/drafts";
import { LoadingView } from "../../app/Loading";
import { ProblemNotice } from "../../app/ProblemNotice";
import { useSite } from "../../app/SiteFrame";
import { Builds } from "./Builds";
import { Comparison } from "./Comparison";
import { FileCard } from "./FileCard";
import { HeadLines } from "./HeadLines";
import { LatestBuild } from "./LatestBuild";
import { PlanPanel } from "./plan/PlanPanel";
import styles from "./setView.module.css";
import shared from "./set.module.css";
import { UploadField } from "./UploadField";
import { LinkButton } from "../../app/LinkButton";

/** Which files and why, how each looks and what it weighs, what was built before and what differs. */
export function SetView() {
  const site = useSite();
  const builds = useBuilds(site.id);
  const draft = useDraft(site.id);
  const [search, setSearch] = useSearchParams();
  if (builds.isPending || draft.isPending) return <LoadingView what="Reading the builds" />;
  if (!builds.data) return <ProblemNotice problem={builds.error} retry={() => void builds.refetch()} />;
  const [latest, ...earlier] = builds.data;
  const compared = earlier.find(({ number }) => String(number) === search.get("with"));
  return (
    <main className={styles.view}>
      <PlanPanel site={site} drawn={Boolean(draft.data)} />
      {latest && compared ? (
        <Comparison build={latest} earlier={compared} close={() => setSearch({})} />
      ) : (
        <Files build={latest} siteId={site.id} />
      )}
      <aside className={styles.side} aria-label="What to do with the set">
        {latest && <LatestBuild build={latest} siteId={site.id} />}
        {draft.data && <UploadField site={site} />}
        {latest && <HeadLines lines={latest.head} />}
        <Builds builds={builds.data} compare={(number) => setSearch({ with: String(number) })} />
      </aside>
    </main>
  );
}

function Files({ build, siteId }: { build: Build | undefined; siteId: number }) {
  if (!build) {
    return (
      <section className={styles.files}>
        <Empty
          className={styles.nothing ?? ""}
          description="Nothing is built yet. Set the square on the bench, then build the set."
        >
          <LinkButton to={`/sites/${siteId}/bench`} type="primary">
            Go to the bench
          </LinkButton>
        </Empty>
      </section>
    );
  }
  return (
    <section className={styles.files} aria-label={`Files of build ${build.number}`}>
      {build.files.map((file) => (
        <FileCard key={file.name} build={build} file={file} />
      ))}
      {build.left_out.map(({ name, reason }) => (
        <article key={name} className={shared.card} data-left-out>
          <h2>{name}</h2>
          <p>Left out. {reason}</p>
        </article>
      ))}
    </section>
  );
}
