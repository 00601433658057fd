import { Button } from "antd";
import { use } from "react";

import type { Artwork } from "../../api/client";
import { Dialog } from "../../app/Dialog";
import { TakingIn } from "../../app/takingIn";

type Props = { artwork: Artwork; file: File; replace: (file: File) => void; close: () => void };

/** A newer version changes every bench where the piece lies: which, and shall it? */
export function AskToReplace({ artwork, file, replace, close }: Props) {
  const take = use(TakingIn);
  const keepBoth = () => {
    close();
    take([file]);
  };
  const goOn = () => {
    close();
    replace(file);
  };
  const foot = (
    <>
      <Button onClick={close}>Cancel</Button>
      <Button onClick={keepBoth}>Add it as new artwork</Button>
      <Button type="primary" onClick={goOn}>
        Replace it
      </Button>
    </>
  );
  return (
    <Dialog title={`Replace ${artwork.title} with ${file.name}?`} close={close} foot={foot}>
      <p>
        {artwork.used_by.length === 1
          ? "It is on one bench, which changes"
          : "It is on these benches, which change"}{" "}
        with it:
      </p>
      <ul>
        {artwork.used_by.map(({ id, name }) => (
          <li key={id}>{name}</li>
        ))}
      </ul>
      <p>Sets that are built or installed stay as they are until you build and install again.</p>
    </Dialog>
  );
}
