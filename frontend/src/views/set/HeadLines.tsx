import { App, Button } from "antd";

import styles from "./set.module.css";

/** The lines for the head of each page, to be copied. */
export function HeadLines({ lines }: { lines: string[] }) {
  const { message } = App.useApp();
  const copy = () =>
    navigator.clipboard.writeText(lines.join("\n")).then(
      () => message.success("The lines are on the clipboard."),
      () => message.error("The browser does not allow copying here. Select the lines and copy them by hand."),
    );
  return (
    <section className={styles.block}>
      <h2>Lines for the head of each page</h2>
      <pre tabIndex={0} aria-label="Lines for the head">
        {lines.join("\n")}
      </pre>
      <Button onClick={() => void copy()}>Copy the lines</Button>
    </section>
  );
}
