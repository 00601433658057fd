import { Button } from "antd";
import { useState } from "react";

import { type Build, Problem } from "../../api/client";
import { useBuildAgain, useRemoveBuild, useRestoreBuild } from "../../api/builds";
import { when } from "../../app/units";
import styles from "./builds.module.css";
import shared from "./set.module.css";

type Props = { builds: Build[]; compare: (number: number) => void };

/** Every build of the site: its files and its recipe to download, what differs, and whether it still comes out alike. */
export function Builds({ builds, compare }: Props) {
  const [removed, setRemoved] = useState<Build>();
  const remove = useRemoveBuild();
  const restore = useRestoreBuild();
  if (!builds.length && !removed) return null;
  return (
    <section className={shared.block}>
      <h2>All builds</h2>
      <ul className={styles.builds}>
        {builds.map((build, position) => (
          <li key={build.id}>
            <span>
              <strong>Build {build.number}</strong> <span className="reading">{when(build.created)}</span>
            </span>
            <span className={styles.links}>
              <a href={`/api/builds/${build.id}/set.zip`} download>
                ZIP<span className="unseen"> of build {build.number}</span>
              </a>
              <a
                href={`/api/builds/${build.id}/recipe.zip`}
                download
                title="Recipe and artwork, for the command line"
              >
                Recipe<span className="unseen"> of build {build.number}</span>
              </a>
              {position > 0 && (
                <Button size="small" onClick={() => compare(build.number)}>
                  What differs<span className="unseen"> from build {build.number}</span>
                </Button>
              )}
              <Again build={build} />
              <Remove build={build} remove={remove} done={() => setRemoved(build)} />
            </span>
          </li>
        ))}
      </ul>
      {removed && (
        <p role="status" className={styles.links}>
          Build {removed.number} is removed from this list.
          <Button
            size="small"
            loading={restore.isPending}
            onClick={() => restore.mutate(removed.id, { onSuccess: () => setRemoved(undefined) })}
          >
            Restore
          </Button>
        </p>
      )}
    </section>
  );
}

type RemoveProps = { build: Build; remove: ReturnType<typeof useRemoveBuild>; done: () => void };

/** Takes a build off the list; that it stands installed is said first. */
function Remove({ build, remove, done }: RemoveProps) {
  const error = remove.variables?.id === build.id ? remove.error : undefined;
  const installed = error instanceof Problem && error.code === "still-installed";
  return (
    <>
      <Button
        size="small"
        onClick={() => remove.mutate({ id: build.id, although: installed }, { onSuccess: done })}
      >
        {installed ? "Remove anyway" : "Remove"}
        <span className="unseen">: build {build.number}</span>
      </Button>
      {error && (
        <span className="reading" role="alert" data-tone="caution">
          {error.message}
        </span>
      )}
    </>
  );
}

/** Makes the build once more and says whether every byte is the same. */
function Again({ build }: { build: Build }) {
  const again = useBuildAgain();
  const other = again.data?.filter(({ change }) => change !== "same");
  return (
    <>
      <Button size="small" loading={again.isPending} onClick={() => again.mutate(build.id)}>
        Rebuild<span className="unseen">: build {build.number}</span>
      </Button>
      {other && (
        <span className="reading" role="status" data-tone={other.length ? "caution" : "good"}>
          {other.length
            ? `differs: ${other.map(({ name }) => name).join(", ")}`
            : `${again.data?.length} files, the same bytes`}
        </span>
      )}
      {again.error && (
        <span className="reading" role="alert" data-tone="caution">
          {again.error.message}
        </span>
      )}
    </>
  );
}
