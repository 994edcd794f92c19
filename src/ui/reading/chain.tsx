"use client";
/** The rounds of one question on one scale: each spans less than the one before. */
import { useQuery } from "@tanstack/react-query";
import { settingFor } from "@/core/settings";
import { ChainRound, scaleOfChain } from "@/core/trials/chain";
import { plainNumber } from "@/core/units";
import { api } from "../common/api";
import { keys } from "../common/keys";
import styles from "./chain.module.css";
import { PointedLink } from "../common/pointed-link";

export function Chain({ trialId }: { trialId: number }) {
  const rounds = useQuery({
    queryKey: keys.chain(trialId),
    queryFn: () => api.get<ChainRound[]>(`/trials/${trialId}/chain`),
  }).data;
  if (!rounds || rounds.length < 2) return null;
  return (
    <section className="card" aria-label="Rounds of this question">
      <h2>Rounds of this question</h2>
      <ol className={styles.rounds}>
        {rounds.map((one) => (
          <li key={one.trialId}>
            <PointedLink href={`/trials/${one.trialId}`} aria-current={one.trialId === trialId || undefined}>
              Round {one.round}
            </PointedLink>
            <Span round={one} rounds={rounds} />
            <span className={`mono ${styles.figure}`}>{sayFound(one)}</span>
          </li>
        ))}
      </ol>
    </section>
  );
}

function Span({ round, rounds }: { round: ChainRound; rounds: ChainRound[] }) {
  const scale = scaleOfChain(rounds, round.setting);
  if (!scale) return <span />;
  const place = (value: number) => `${((value - scale.low) / (scale.high - scale.low || 1)) * 100}%`;
  const [low, high] = [round.values[0], round.values[round.values.length - 1]];
  const { found, setting } = round;
  const { unit, decimals } = settingFor(setting);
  const said = `${plainNumber(low, decimals + 1)} to ${plainNumber(high, decimals + 1)} ${unit}, ${round.values.length} values`;
  return (
    <span className={styles.span} role="img" aria-label={said} title={said}>
      <span className={styles.tried} style={{ left: place(low), width: `calc(${place(high)} - ${place(low)})` }} />
      {round.values.map((value) => (
        <span key={value} className={styles.tick} style={{ left: place(value) }} />
      ))}
      {found && found.fromValue !== null && found.toValue !== null && (
        <span
          className={styles.good}
          style={{ left: place(found.fromValue), width: `calc(${place(found.toValue)} - ${place(found.fromValue)})` }}
        />
      )}
      {found?.value != null && <span className={styles.found} style={{ left: place(found.value) }} />}
    </span>
  );
}

function sayFound({ found, setting }: ChainRound): string {
  const { unit, decimals } = settingFor(setting);
  return found?.value == null ? "not read yet" : `${plainNumber(found.value, decimals + 1)} ${unit}`;
}
