import { useQueryClient } from "@tanstack/react-query";
import { App, Button, Upload } from "antd";
import { useState } from "react";
import { useNavigate } from "react-router";

import { answer, type Artwork, client, type Draft, type Site } from "../../api/client";
import { useRemoveArtwork } from "../../api/artwork";
import { useJudged, usePutOnBench } from "../../api/judging";
import { sendPicture } from "../../api/upload";
import { HowFar } from "../../app/HowFar";
import { ArtworkPicture } from "./ArtworkPicture";
import { AskToReplace } from "./AskToReplace";
import styles from "./piece.module.css";
import shared from "./artwork.module.css";
import { Details } from "./Details";
import { Facts } from "./Facts";
import { Reading } from "./Reading";
import { LinkButton } from "../../app/LinkButton";

type Props = { artwork: Artwork; site: Site; draft: Draft | null };

/** One piece: its picture, the step to the bench, its facts, how it is read, what is noted about it. */
export function Piece({ artwork, site, draft }: Props) {
  return (
    <section className={styles.detail} aria-label={`About ${artwork.title}`}>
      <ArtworkPicture artwork={artwork} longest={800} className={styles.large ?? ""} />
      <h2>{artwork.title}</h2>
      <ToBench artwork={artwork} site={site} draft={draft} />
      <Facts artwork={artwork} />
      <Reading artwork={artwork} />
      <Details artwork={artwork} />
      <Versions artwork={artwork} site={site} />
    </section>
  );
}

function ToBench({ artwork, site, draft }: Props) {
  const putOnBench = usePutOnBench();
  const judged = useJudged(site.id, artwork);
  const [trying, setTrying] = useState(false);
  const navigate = useNavigate();
  const { message } = App.useApp();
  const bench = `/sites/${site.id}/bench`;
  if (draft?.artwork_id === artwork.id) {
    return (
      <Button className="main-action" onClick={() => void navigate(bench)}>
        Continue on the bench
      </Button>
    );
  }
  const put = async () => {
    setTrying(true);
    try {
      const saved = await putOnBench(site.id, artwork, draft);
      void navigate(`${bench}/${saved.id}`, { state: { proposals: true } });
    } catch (problem) {
      void message.error((problem as Error).message, 8);
      setTrying(false);
    }
  };
  return (
    <>
      <Button className="main-action" loading={trying} onClick={() => void put()}>
        {trying ? "Trying different icons" : "Open on the bench"}
      </Button>
      {trying && <HowFar judged={judged} />}
    </>
  );
}

/** Changing the drawing, replacing the file by a newer one, and removing with a way back. */
function Versions({ artwork, site }: { artwork: Artwork; site: Site }) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const remove = useRemoveArtwork();
  const { message } = App.useApp();
  const [replacing, setReplacing] = useState(false);
  const [asked, setAsked] = useState<File>();
  const replace = async (file: File) => {
    setReplacing(true);
    try {
      await sendPicture(`/api/artwork/${artwork.id}/replacement`, file, () => undefined);
      void message.success("It is replaced with the newer version.");
    } catch (problem) {
      void message.error((problem as Error).message, 8);
    }
    setReplacing(false);
    void queries.invalidateQueries();
  };
  const shelf = `/sites/${site.id}/artwork`;
  const takeOff = () =>
    remove.mutate(artwork.id, {
      onSuccess: () => {
        const key = `removed-${artwork.id}`;
        // Asked for without a hook of this view, which is gone by then.
        const undo = async () => {
          await answer(
            client.POST("/api/artwork/{artwork_id}/restore", {
              params: { path: { artwork_id: artwork.id } },
            }),
          );
          message.destroy(key);
          await queries.invalidateQueries();
          void navigate(`${shelf}?piece=${artwork.id}`);
        };
        void navigate(shelf);
        void message.info({
          key,
          duration: 12,
          content: (
            <>
              {artwork.title} is removed. <Button onClick={() => void undo()}>Undo</Button>
            </>
          ),
        });
      },
      onError: (problem) => void message.error(problem.message, 8),
    });
  return (
    <div className={shared.wayButtons}>
      {artwork.drawing && (
        <LinkButton to={`${artwork.drawing.kind}?change=${artwork.id}`}>Change the drawing</LinkButton>
      )}
      <Upload
        showUploadList={false}
        beforeUpload={(file) => {
          if (artwork.used_by.length) setAsked(file);
          else void replace(file);
          return false;
        }}
      >
        <Button loading={replacing}>Replace with a newer version</Button>
      </Upload>
      {asked && (
        <AskToReplace
          artwork={artwork}
          file={asked}
          replace={(file) => void replace(file)}
          close={() => setAsked(undefined)}
        />
      )}
      <Button danger onClick={takeOff} loading={remove.isPending}>
        Remove
      </Button>
    </div>
  );
}
