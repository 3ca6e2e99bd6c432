import fc from 'fast-check';

/*
 * Bodies out of a contract's JSON Schema: most of them nearly what is wanted, with something wrong or missing, and some that are
 * nothing like it.
 */

type Schema = {
  readonly type?: string | readonly string[];
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly items?: Schema | boolean;
  readonly prefixItems?: readonly Schema[];
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly allOf?: readonly Schema[];
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
  readonly minimum?: number;
  readonly maximum?: number;
  readonly maxLength?: number;
  readonly maxItems?: number;
  readonly additionalProperties?: Schema | boolean;
  readonly $ref?: string;
  readonly $defs?: Readonly<Record<string, Schema>>;
};

const DEEPEST = 7;
const odd: fc.Arbitrary<unknown> = fc.oneof(
  fc.constantFrom<unknown>(
    null,
    '',
    0,
    -1,
    1.5,
    2 ** 31,
    2 ** 53,
    -0,
    1e308,
    true,
    [],
    {},
    'NaN',
    '\u0000',
    '\ud800',
    '__proto__',
    '../../x',
    'a'.repeat(5000),
  ),
  fc.jsonValue({ maxDepth: 3 }),
);
const DIGEST = fc.array(fc.constantFrom(...'0123456789abcdef'), { minLength: 64, maxLength: 64 }).map((letters) => letters.join(''));
const text = fc.oneof(
  fc.string({ maxLength: 24 }),
  DIGEST,
  fc.constantFrom('010', 'Sock', '#aabbcc', '2026-01-01T00:00:00.000Z', 'washday'),
);

/** Something for a schema; one in so many parts of it is odd. */
export function bodyOf(schema: Schema, root: Schema = schema, depth = 0): fc.Arbitrary<unknown> {
  const asked = () => wanted(schema, root, depth);
  return fc.oneof({ weight: 60, arbitrary: fc.constant(null).chain(asked) }, { weight: 1, arbitrary: odd });
}

function wanted(schema: Schema, root: Schema, depth: number): fc.Arbitrary<unknown> {
  if (depth > DEEPEST) return odd;
  if (schema.$ref) {
    const name = schema.$ref.split('/').at(-1) ?? '';
    const found = schema.$ref === '#' ? root : root.$defs?.[name];
    return found ? bodyOf(found, root, depth + 1) : odd;
  }
  if (schema.const !== undefined) return fc.constant(schema.const);
  if (schema.enum) return fc.constantFrom(...schema.enum);
  const several = schema.anyOf ?? schema.oneOf;
  if (several && several.length > 0) return fc.oneof(...several.map((each) => bodyOf(each, root, depth)));
  if (schema.allOf && schema.allOf.length > 0) return fc.oneof(...schema.allOf.map((each) => bodyOf(each, root, depth)));
  const type = typeof schema.type === 'string' ? schema.type : schema.type?.[0];
  if (type === 'string') return schema.maxLength === undefined ? text : text.map((each) => each.slice(0, schema.maxLength));
  if (type === 'boolean') return fc.boolean();
  if (type === 'null') return fc.constant(null);
  if (type === 'integer' || type === 'number') {
    const [min, max] = [Math.max(schema.minimum ?? -5, -(2 ** 31)), Math.min(schema.maximum ?? 2000, 2 ** 31 - 1)];
    const whole = fc.integer({ min: Math.ceil(Math.min(min, max)), max: Math.floor(Math.max(min, max)) });
    return fc.oneof(whole, fc.integer({ min: -3, max: 30 }));
  }
  if (type === 'array') {
    const { items, prefixItems } = schema;
    if (prefixItems && prefixItems.length > 0) return fc.tuple(...prefixItems.map((each) => bodyOf(each, root, depth + 1)));
    const each = typeof items === 'object' ? bodyOf(items, root, depth + 1) : odd;
    return fc.array(each, { maxLength: Math.min(schema.maxItems ?? 4, 4) });
  }
  if (type === 'object' || schema.properties) {
    const own = Object.fromEntries(Object.entries(schema.properties ?? {}).map(([name, each]) => [name, bodyOf(each, root, depth + 1)]));
    const names = Object.keys(own);
    return fc.tuple(fc.record(own), fc.nat(12), fc.nat(20), odd).map(([value, dropped, more, strange]) => {
      const made = { ...value } as Record<string, unknown>;
      const name = names[dropped];
      if (dropped < 2 && name !== undefined) delete made[name];
      if (more === 0) made.more = strange;
      return made;
    });
  }
  return odd;
}
