import { KINDS } from '../level/kinds/index';
import type { Kind } from '../level/kinds/kind';

/** The parts of JSON Schema that the package's own schema uses. */
interface Schema {
  type?: string;
  const?: unknown;
  enum?: unknown[];
  default?: unknown;
  pattern?: string;
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  minLength?: number;
  maxLength?: number;
  minItems?: number;
  maxItems?: number;
  items?: Schema | false;
  prefixItems?: Schema[];
  properties?: Record<string, Schema>;
  required?: string[];
  anyOf?: Schema[];
  oneOf?: Schema[];
}

/** Fields that every object has, told once. */
const COMMON = ['id', 'kind', 'name', 'version'];
/** What a field of a kind names, by `kind.field`. */
const NAMES: Readonly<Record<string, string>> = Object.fromEntries(
  Object.entries(KINDS as Record<string, Kind>).flatMap(([kind, { names = {} }]) => Object.entries(names).map(([field, of]) => [`${kind}.${field}`, of.kind])),
);

/**
 * The fields of every kind of object as Markdown tables, made from the package's JSON Schema: what a field holds and
 * what it is where it is absent. They stand in docs/format.md.
 *
 * @param schema see `packageJsonSchema`
 */
export function formatTables(schema: unknown): string {
  const kinds = ((schema as { properties: { objects: { items: Schema } } }).properties.objects.items.anyOf ?? []).flatMap((k) => k.oneOf ?? [k]);
  const tables = kinds.map((kind) => {
    const name = String(kind.properties!.kind.const);
    const form = kind.properties!.lift?.const;
    const rows = fields(kind, '', name).map(([field, value, absent]) => `| \`${field}\` | ${value} | ${absent} |`);
    return [
      `### \`${name}\`${form === undefined ? '' : `, \`lift\` \`${String(form)}\``}`,
      '',
      ...(rows.length > 0 ? ['| field | holds | where absent |', '|---|---|---|', ...rows] : ['No fields of its own.']),
    ].join('\n');
  });
  return tables.join('\n\n');
}

function fields(object: Schema, before: string, kind: string): [field: string, value: string, absent: string][] {
  return Object.entries(object.properties ?? {}).flatMap(([name, s]): [string, string, string][] => {
    if (before === '' && COMMON.includes(name) && !(kind === 'settings' && name === 'id')) return [];
    const path = `${before}${name}`;
    const absent = s.default !== undefined ? `\`${JSON.stringify(s.default)}\`` : object.required?.includes(name) ? 'needed' : 'may be';
    const of = NAMES[`${kind}.${path}`];
    const own: [string, string, string] = [path, of ? `id of a \`${of}\`` : value(s), absent];
    const inner =
      s.type === 'object'
        ? fields(s, `${path}.`, kind)
        : s.type === 'array' && s.items && s.items.type === 'object'
          ? fields(s.items, `${path}[].`, kind)
          : s.type === 'array' && s.items && (s.items.oneOf ?? s.items.anyOf)
            ? (s.items.oneOf ?? s.items.anyOf)!.flatMap((one) => fields(one, `${path}[${oneOf(one)}].`, kind))
            : [];
    return [own, ...inner];
  });
}

/** The field and value by which one of several forms is told. */
function oneOf(form: Schema): string {
  const told = Object.entries(form.properties ?? {}).find(([, s]) => s.const !== undefined);
  return told ? `${told[0]} ${String(told[1].const)}` : '';
}

function value(s: Schema): string {
  if (s.const !== undefined) return `\`${JSON.stringify(s.const)}\``;
  if (s.enum) return s.enum.map((v) => `\`${JSON.stringify(v)}\``).join(', ');
  const any = s.anyOf ?? s.oneOf;
  if (any) return any.every((a) => a.type === 'object') ? 'an object of one of the forms below' : any.map(value).join(', ');
  if (s.type === 'boolean') return '`true` or `false`';
  if (s.type === 'string')
    return s.pattern === '^[A-Za-z0-9_-]{1,64}$'
      ? 'id'
      : s.pattern === '^[0-9a-f]{64}$'
        ? '64 hex digits'
        : s.pattern === '^#[0-9a-f]{6}$'
          ? '`#` and six hex digits'
          : `text${s.minLength ? ` of ${s.minLength}` : ' of 0'} to ${s.maxLength ?? 1000}`;
  if (s.type === 'number' || s.type === 'integer') return `${s.type === 'integer' ? 'whole number' : 'number'}${range(s)}`;
  if (s.type === 'array' && s.prefixItems)
    return s.prefixItems.every((p) => JSON.stringify(p) === JSON.stringify(s.prefixItems![0]))
      ? `${s.prefixItems.length} x (${value(s.prefixItems[0])})`
      : `[${s.prefixItems.map(value).join('; ')}]`;
  if (s.type === 'array')
    return `${s.minItems ?? 0}${s.maxItems === undefined ? ' or more' : ` to ${s.maxItems}`} x (${s.items ? value(s.items) : 'anything'})`;
  return 'an object';
}

function range(s: Schema): string {
  const most = s.maximum !== undefined && s.maximum < Number.MAX_SAFE_INTEGER ? s.maximum : undefined;
  if (s.exclusiveMinimum !== undefined) return ` over ${s.exclusiveMinimum}${most === undefined ? '' : ` to ${most}`}`;
  const least = s.minimum !== undefined && s.minimum > -Number.MAX_SAFE_INTEGER ? s.minimum : undefined;
  return least !== undefined && most !== undefined ? ` ${least} to ${most}` : least !== undefined ? ` from ${least}` : most !== undefined ? ` to ${most}` : '';
}

const BEGIN = '<!-- fields: made by npm run schema -->';
const END = '<!-- end of fields -->';

/** The page with today's tables between its marks. @throws Error where the marks are missing */
export function withTables(page: string, tables: string): string {
  const [from, to] = [page.indexOf(BEGIN), page.indexOf(END)];
  if (from < 0 || to < from) throw new Error(`docs/format.md has no ${BEGIN} and ${END} to put the tables between`);
  return `${page.slice(0, from)}${BEGIN}\n\n${tables}\n\n${page.slice(to)}`;
}
