import fc from 'fast-check';

// The same cases every run, so that a red run can be had again; RAMMER_SEED tries others.
fc.configureGlobal({ seed: Number(process.env.RAMMER_SEED ?? 20261125) });
