"use client";
/** A device of the home network shows the code that stands on the bench's screen. */
import { Button, Input } from "antd";
import { FormEvent, useState } from "react";
import { api, ApiError } from "../common/api";

export function LetInPage() {
  const [code, setCode] = useState("");
  const [name, setName] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const [asking, setAsking] = useState(false);
  const ask = async (event: FormEvent) => {
    event.preventDefault();
    setAsking(true);
    try {
      await api.post("/let-in", { code: code.replaceAll(" ", ""), ...(name.trim() === "" ? {} : { name }) });
      window.location.assign("/bench");
    } catch (error) {
      setProblem(error instanceof ApiError ? error.message : "Cuchara does not answer.");
      setAsking(false);
    }
  };
  return (
    <form className="card narrow-form" onSubmit={(event) => void ask(event)}>
      <h1>Let this device in</h1>
      <p className="sub">
        On the computer that runs Cuchara, open <b>Shelf</b>, then <b>This program</b>, and press <b>Let a device in</b>
        .
      </p>
      <label htmlFor="code">The code it shows</label>
      <Input
        id="code"
        size="large"
        className="mono"
        inputMode="numeric"
        autoComplete="one-time-code"
        autoFocus
        maxLength={9}
        placeholder="eight digits"
        value={code}
        aria-invalid={problem !== null}
        aria-describedby={problem ? "code-problem" : undefined}
        onChange={(event) => {
          setCode(event.target.value);
          setProblem(null);
        }}
      />
      <label htmlFor="device">What to call this device</label>
      <Input
        id="device"
        size="large"
        placeholder="A phone"
        maxLength={60}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      {problem && (
        <div id="code-problem" className="field-error" role="alert">
          {problem}
        </div>
      )}
      <Button className="go" size="large" block htmlType="submit" loading={asking} disabled={code.trim() === ""}>
        Let me in
      </Button>
    </form>
  );
}
