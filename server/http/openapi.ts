import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import { boardSchema } from '../boards/board-schema';
import type { JsonSchema, RouteSpec, Routes } from './routes';
import { schemas } from './schemas';

/** `/api/boards/:id` -> `/api/boards/{id}` */
export const openApiPath = (path: string) => path.replace(/:([A-Za-z]+)/g, '{$1}');

const problem = {
  description: 'What went wrong and what to do about it (RFC 9457).',
  content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
};

function answer(status: string, schema: JsonSchema | string | null) {
  const description =
    { 200: 'Done.', 201: 'Made.', 202: 'Begun.', 204: 'Done; nothing to say.', 503: 'Not available.' }[
      status
    ] ?? 'Answer.';
  if (schema === null) return { description };
  if (typeof schema === 'string') return { description, content: { [schema]: {} } };
  return { description, content: { 'application/json': { schema } } };
}

// biome-ignore lint/suspicious/noExplicitAny: routes of all inputs are described alike
function operation(spec: RouteSpec<any, any>, inputs: Record<string, JsonSchema>) {
  const query =
    spec.query &&
    (inputs[spec.query.name] as { properties?: Record<string, JsonSchema>; required?: string[] });
  const parameters = [
    ...[...spec.path.matchAll(/:([A-Za-z]+)/g)].map((match) => ({
      name: match[1],
      in: 'path',
      required: true,
      schema: { type: 'string' },
    })),
    ...Object.entries(query?.properties ?? {}).map(([name, schema]) => ({
      name,
      in: 'query',
      required: query?.required?.includes(name) ?? false,
      schema,
    })),
  ];
  const content = spec.body
    ? { 'application/json': { schema: { $ref: `#/components/schemas/${spec.body.name}` } } }
    : spec.rawBody && { [spec.rawBody.type]: spec.rawBody.schema ? { schema: spec.rawBody.schema } : {} };
  return {
    summary: spec.summary,
    ...(parameters.length ? { parameters } : {}),
    ...(content ? { requestBody: { required: true, content } } : {}),
    responses: {
      ...Object.fromEntries(
        Object.entries(spec.answers).map(([status, schema]) => [status, answer(status, schema)]),
      ),
      default: problem,
    },
  };
}

/** The OpenAPI 3.1 document of the routes. */
export function openApiDocument(routes: Routes) {
  const inputs = validationMetadatasToSchemas({ refPointerPrefix: '#/components/schemas/' }) as Record<
    string,
    JsonSchema
  >;
  const used = new Set(routes.inputs().map((input) => input.name));
  const paths: Record<string, Record<string, unknown>> = {};
  for (const spec of routes.specs) {
    const path = openApiPath(spec.path);
    paths[path] = { ...paths[path], [spec.method]: operation(spec, inputs) };
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Sorvik', version: '1', description: 'Boards, datasets, imports and cubes.' },
    paths,
    components: {
      schemas: {
        ...Object.fromEntries(Object.entries(inputs).filter(([name]) => used.has(name))),
        ...schemas,
        Board: boardSchema(),
      },
    },
  };
}
