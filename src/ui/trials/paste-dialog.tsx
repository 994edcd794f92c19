"use client";
/** A list from text or a spreadsheet → bands. */
import { Input, Modal } from "antd";
import { useState } from "react";
import { pasteBands } from "@/core/heightplan/exchange";
import type { HeightPlan } from "@/core/heightplan/plan";
import { SettingKey, settingFor } from "@/core/settings";

interface Props {
  open: boolean;
  plan: HeightPlan;
  keys: readonly SettingKey[];
  onClose(): void;
  onTake(plan: HeightPlan): void;
}

export function PasteDialog({ open, plan, keys, onClose, onTake }: Props) {
  const [text, setText] = useState("");
  const named = keys.map((key) => `${settingFor(key).label.toLowerCase()} in ${settingFor(key).unit}`).join(", ");
  const read = text.trim() === "" ? null : pasteBands(text, keys, plan);
  return (
    <Modal
      open={open}
      title="Paste a list of bands"
      okText={read?.ok ? `Take ${read.value.bands.length} bands` : "Take the bands"}
      okButtonProps={{ disabled: !read?.ok }}
      onCancel={onClose}
      onOk={() => {
        if (!read?.ok) return;
        onTake(read.value);
        setText("");
        onClose();
      }}
    >
      <p className="dim">
        From text or a spreadsheet, bottom band first: one column of values, or the height in mm where a band starts
        followed by {named}. A first line with names (height, fan, nozzle …) can bring in other settings.
      </p>
      <Input.TextArea
        aria-label="List of bands"
        rows={8}
        className="mono above"
        placeholder={"1.5\t220\n11.5\t215\n21.5\t210"}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {read && !read.ok && (
        <p className="field-error" role="alert">
          {read.message}
        </p>
      )}
    </Modal>
  );
}
