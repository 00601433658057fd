import { Modal } from "antd";
import { type ReactNode, useEffect, useState } from "react";

import { focusAgain } from "./focusAgain";

type Props = {
  title: string;
  close: () => void;
  children: ReactNode;
  width?: number;
  /** Buttons at its foot. */
  foot?: ReactNode;
};

/** A dialog that stands at once where it stays, and gives the focus back to what opened it. */
export function Dialog({ title, close, children, width = 520, foot = null }: Props) {
  const [opener] = useState(() => document.activeElement);
  useEffect(() => () => void setTimeout(() => focusAgain(opener)), [opener]);
  return (
    <Modal
      open
      getContainer={false}
      title={title}
      width={width}
      footer={foot}
      onCancel={close}
      transitionName=""
      maskTransitionName=""
    >
      {children}
    </Modal>
  );
}
