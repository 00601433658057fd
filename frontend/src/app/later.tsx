import { Button } from "antd";
import { type ComponentType, useEffect, useState } from "react";

import styles from "./later.module.css";
import { LoadingView } from "./Loading";

export const NOT_FETCHED =
  "Bexi does not answer, so this part of the page is missing. Is Bexi still running?";

/** A component that is fetched once it is shown; when that fails it says so, and is fetched again by a press. */
export function later<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
  waiting?: string,
): ComponentType<Props> {
  let fetched: ComponentType<Props> | undefined;
  return function Later(props: Props) {
    const [Part, setPart] = useState(() => fetched);
    const [attempt, setAttempt] = useState(0);
    const [failed, setFailed] = useState(false);
    useEffect(() => {
      if (fetched) return;
      (attempt ? stylesAgain() : Promise.resolve()).then(load).then(
        (part) => {
          fetched = part;
          setPart(() => part);
        },
        () => setFailed(true),
      );
    }, [attempt]);
    if (Part) return <Part {...props} />;
    if (!failed) return waiting ? <LoadingView what={waiting} /> : null;
    const again = () => {
      setFailed(false);
      setAttempt(attempt + 1);
    };
    return (
      <p role="alert" className={styles.missing}>
        {NOT_FETCHED} <Button onClick={again}>Try again</Button>
      </p>
    );
  };
}

/** Fetch again the style sheets that did not come: a browser asks for each but once. */
async function stylesAgain(): Promise<void> {
  const links = [...document.querySelectorAll<HTMLLinkElement>('link[rel="stylesheet"]')];
  await Promise.all(
    links
      .filter((link) => !hasCome(link))
      .map((link) => {
        const again = link.cloneNode() as HTMLLinkElement;
        again.nonce = link.nonce ?? ""; // which no attribute tells
        const came = new Promise((resolve, reject) => {
          again.addEventListener("load", resolve);
          again.addEventListener("error", reject);
        });
        link.replaceWith(again);
        return came;
      }),
  );
}

/** Of a sheet that did not come the rules must not even be read. */
function hasCome({ sheet }: HTMLLinkElement): boolean {
  try {
    return (sheet?.cssRules.length ?? 0) > 0;
  } catch {
    return false;
  }
}
