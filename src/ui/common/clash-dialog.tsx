"use client";
import { Button, Modal } from "antd";

interface Props {
  /** “trial”, “printer”. */
  what: string;
  /** What both have changed, in words. */
  fields: string[];
  onTheirs(): void;
  onMine(): void;
  /** Keeps mine as another record. */
  onCopy?(): void;
}

/** Somebody else has changed the same: nothing is lost, whatever is chosen. */
export function ClashDialog({ what, fields, onTheirs, onMine, onCopy }: Props) {
  return (
    <Modal open title={`This ${what} was changed elsewhere, too`} closable={false} maskClosable={false} footer={null}>
      <p>
        Another page has changed {fields.join(", ")} since this one last saw it. What you changed here is not stored
        yet.
      </p>
      <div className="dialog-acts">
        <Button onClick={onTheirs}>Take over theirs</Button>
        {onCopy && <Button onClick={onCopy}>Keep mine as a copy</Button>}
        <Button type="primary" onClick={onMine}>
          Keep mine
        </Button>
      </div>
      <p className="dim">Taken over, yours is one step of undo away.</p>
    </Modal>
  );
}
