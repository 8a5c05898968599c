/** What requests about sittings may say. */
import { array, boolean, mixed, number, object, string } from 'yup';
import { usualOrders } from '../../core/sitting/sitting.ts';
import { isInput } from '../../core/wire/shapes.ts';

const step = number().integer().min(0).max(100_000);

const orders = object({
  go: string()
    .oneOf(['on', 'over', 'into'] as const)
    .default(usualOrders.go),
  to: step.nullable().default(usualOrders.to),
  straight: boolean().default(usualOrders.straight),
  breaks: array().of(step.required()).max(1000).default(usualOrders.breaks),
  failure: boolean().default(usualOrders.failure),
}).exact();

export const sittingSchemas = {
  orders,
  begin: object({
    file: string().required().max(4000),
    look: string().required().max(1000),
    environment: string().max(200).nullable().default(null),
    orders: orders.default(usualOrders),
    result: number().integer().min(1).nullable().default(null),
    headed: boolean().default(false),
    pace: number().min(0).max(60_000).default(0),
  }).exact(),
  line: object({ text: string().defined().max(20_000) }).exact(),
  input: object({
    events: array()
      .of(
        mixed<object>((value): value is object => isInput(value))
          .typeError('events have to be known input events')
          .required(),
      )
      .min(1)
      .max(1000)
      .required(),
  }).exact(),
  record: object({ isOn: boolean().required() }).exact(),
  choice: object({ index: number().integer().min(0).max(10_000).nullable().defined() }).exact(),
  place: object({ x: number().min(-1e5).max(1e5).required(), y: number().min(-1e5).max(1e5).required() }).exact(),
  time: object({ runs: boolean().required() }).exact(),
  after: object({ after: number().integer().min(0).default(0) }).exact(),
};
