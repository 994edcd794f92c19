"use client";
/** Lines of the user's own at the start of a band. */
import { Input, Modal } from "antd";
import { useState } from "react";
import { freeLinesSchema } from "@/core/settings/free-lines-schema";

interface Props {
  title: string;
  lines: string[];
  onClose(): void;
  onTake(lines: string[]): void;
}

export function LinesDialog({ title, lines, onClose, onTake }: Props) {
  const [text, setText] = useState(lines.join("\n"));
  const typed = text.split("\n").filter((line) => line.trim() !== "");
  const checked = freeLinesSchema.safeParse(typed);
  const wrong = checked.success ? null : checked.error.issues[0];
  return (
    <Modal
      open
      title={title}
      okText="Take the lines"
      okButtonProps={{ disabled: wrong !== null }}
      onCancel={onClose}
      onOk={() => {
        onTake(typed.map((line) => line.trim()));
        onClose();
      }}
    >
      <p className="dim">
        They are put in as they are, one command a line, where the band starts. Cuchara does not look into them.
      </p>
      <Input.TextArea
        aria-label="Own lines"
        rows={5}
        className="mono above"
        placeholder="M117 Band 3"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {wrong && (
        <p className="field-error" role="alert">
          Line {Number(wrong.path[0] ?? 0) + 1}: {wrong.message}
        </p>
      )}
    </Modal>
  );
}
