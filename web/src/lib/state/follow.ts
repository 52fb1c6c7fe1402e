/** Where a sheet stands by its steps and answers: the rule of the server's core, so that work goes on without it. */
import type { Schemas } from '../api/client';

type Sheet = Schemas['SheetOut'];
type Step = Schemas['StepOut'];

export interface Given {
  id: string;
  step: string;
  value: string;
  reason: string;
}

function isDone(answers: Map<string, string>, key: string | undefined): boolean {
  const said = key === undefined ? undefined : answers.get(key);
  return (
    said !== undefined &&
    said !== 'skip' &&
    said !== 'damp' &&
    said !== 'again' &&
    !said.startsWith('danger:')
  );
}

/** As `applies` of `care.bench.steps`; a browser test walks whole sheets by both. */
function applies(step: Step, answers: Map<string, string>): boolean {
  const [key, value] = step.only_if ?? [];
  if (key !== undefined && answers.get(key) !== value) return false;
  if (!step.needs.every((need) => isDone(answers, need))) return false;
  if (step.halted_by.some((look) => answers.get(look)?.startsWith('danger:'))) return false;
  const isFilled = ([out, ...back]: string[]) =>
    (out && !isDone(answers, out)) || back.some((fit) => isDone(answers, fit));
  if (step.missing.length && step.missing.every(isFilled)) return false;
  return step.whole.every(isFilled);
}

const values = (steps: Step[]): Map<string, string> =>
  new Map(steps.flatMap((step) => (step.answer === null ? [] : [[step.key, step.answer]])));

/** The first step that is to be done and has no answer; null when all are answered. */
function currentOf(steps: Step[]): string | null {
  const said = values(steps);
  return steps.find((step) => step.answer === null && applies(step, said))?.key ?? null;
}

/** The sheet after further answers, those it has already left out; `back` takes the last one away. */
export function after(sheet: Sheet, all: Given[]): Sheet {
  const given = all.filter((one) => !sheet.taken.includes(one.id));
  if (!given.length) return sheet;
  const steps = new Map(sheet.steps.map((step) => [step.key, step]));
  const answered = [...sheet.answered];
  for (const { step: key, value, reason } of given) {
    const undone = value === 'back' ? answered.pop() : undefined;
    const step = steps.get(value === 'back' ? (undone ?? '') : key);
    if (!step) continue;
    if (value === 'back') {
      steps.set(step.key, { ...step, answer: null, reason: '' });
    } else {
      answered.push(key);
      steps.set(key, { ...step, answer: value, reason });
    }
  }
  const now = [...steps.values()];
  return { ...sheet, steps: now, answered, current: currentOf(now), may_drop: false };
}

/** The steps that were answered, and those to come if every answer to come is a yes. */
export function ahead(sheet: Sheet): Step[] {
  const said = values(sheet.steps);
  return sheet.steps.filter((step) => {
    const shown = step.answer !== null || applies(step, said);
    if (shown && !said.has(step.key)) said.set(step.key, step.answers[0] ?? '');
    return shown;
  });
}
