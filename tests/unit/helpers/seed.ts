/**
 * Property tests draw the same cases in every run, so that a failure can be repeated and a build does not fail by chance.
 * `CUCHARA_SEED=random` draws new ones.
 */
import fc from "fast-check";

if (process.env.CUCHARA_SEED !== "random") fc.configureGlobal({ seed: Number(process.env.CUCHARA_SEED ?? 20261125) });
