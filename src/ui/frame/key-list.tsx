"use client";
import { Modal } from "antd";
import { areas } from "./areas";

const keys: [string[], string][] = [
  [["?"], "this list"],
  [["Ctrl", "K"], "find a printer, a spool, a trial or a file"],
  ...areas.map(({ key, label }): [string[], string] => [["G", key], `go to ${label}`]),
  [["Ctrl", "Shift", "X"], "emergency stop of the linked printer"],
  [["↑", "↓"], "cursor layer, on the height log"],
  [["Shift", "↑ ↓"], "cursor to the next band"],
  [["Page Up", "Page Down"], "cursor to the next edge of a band"],
  [["Home", "End"], "cursor to the bed, to the top"],
  [["F"], "fill the bands' values, anywhere on a trial's page"],
  [["D"], "get a trial’s file"],
  [["K"], "keep the values of the band under the cursor"],
  [["+", "−"], "zoom the height log"],
  [["↑", "↓"], "from row to row, on a sheet"],
  [["Alt", "↑ ↓ ← →"], "the row goes earlier, later, out, in"],
  [["D"], "the row once more"],
  [["O"], "the row off, and on again"],
  [["Del"], "takes the row away"],
  [["Ctrl", "Z"], "undo the last change of a plan or a sheet"],
  [["Ctrl", "Shift", "Z"], "redo it"],
];

export function KeyList({ open, onClose }: { open: boolean; onClose(): void }) {
  return (
    <Modal open={open} onCancel={onClose} footer={null} title="Keys" width={460}>
      <table className="grid-table">
        <tbody>
          {keys.map(([combination, what]) => (
            <tr key={what}>
              <td className="picker">
                {combination.map((key) => (
                  <span key={key}>
                    <kbd>{key}</kbd>{" "}
                  </span>
                ))}
              </td>
              <td>{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Modal>
  );
}
