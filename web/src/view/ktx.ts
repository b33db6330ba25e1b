import { LoadingManager, type CompressedTexture, type WebGLRenderer } from 'three';
import { KTX2Loader } from 'three/examples/jsm/loaders/KTX2Loader.js';
import transcoder from 'three/examples/jsm/libs/basis/basis_transcoder.js?url';
import wasm from 'three/examples/jsm/libs/basis/basis_transcoder.wasm?url';

/**
 * The transcoder makes its two kinds of calls by compiling text, which the content security policy forbids: each becomes a
 * function that does the same.
 */
const CALLS: readonly [text: string, plain: string][] = [
  [
    'newFunc(Function,args)(...closureArgs)',
    `(function(...given) {
      const destructors = needsDestructorStack ? [] : null;
      const call = [cppTargetFunc];
      const wired = [];
      if (isClassMethodFunc) call.push((wired[1] = argTypes[1]['toWireType'](destructors, this)));
      for (let i = 2; i < argTypes.length; i++) call.push((wired[i] = argTypes[i]['toWireType'](destructors, given[i - 2])));
      const rv = cppInvokerFunc(...call);
      if (needsDestructorStack) runDestructors(destructors);
      else
        for (let i = isClassMethodFunc ? 1 : 2; i < argTypes.length; i++)
          if (argTypes[i].destructorFunction !== null) argTypes[i].destructorFunction(wired[i]);
      if (returns) return argTypes[0]['fromWireType'](rv);
    })`,
  ],
  [
    'newFunc(Function,params)(...args)',
    `(function(obj, func, destructorsRef, from) {
      const list = [];
      for (let i = 0, at = 0; i < argCount; i++) {
        list.push(types[i]['readValueFromPointer'](from + at));
        at += types[i]['argPackAdvance'];
      }
      const rv = kind === 1 ? Reflect.construct(func, list) : kind === 0 ? func.call(obj, ...list) : func.call(...list);
      if (!retType.isVoid) return emval_returnValue(retType, destructorsRef, rv);
    })`,
  ],
];

/** The transcoder without text that becomes code. @throws Error where it is another than was looked at */
function withoutText(code: string): string {
  let out = code;
  for (const [text, plain] of CALLS) {
    if (!out.includes(text)) throw new Error('the transcoder of KTX2 is another than this program knows');
    out = out.replace(text, plain);
  }
  return out;
}

let loader: Promise<KTX2Loader> | undefined;

async function load(renderer: WebGLRenderer): Promise<KTX2Loader> {
  const code = withoutText(await (await fetch(transcoder)).text());
  const plain = URL.createObjectURL(new Blob([code], { type: 'text/javascript' }));
  const manager = new LoadingManager();
  manager.setURLModifier((url) => (url.endsWith('basis_transcoder.js') ? plain : url.endsWith('basis_transcoder.wasm') ? wasm : url));
  const made = new KTX2Loader(manager);
  made.setTranscoderPath('/');
  made.setWorkerLimit(1);
  made.detectSupport(renderer);
  return made;
}

/** A KTX2 picture in a form this renderer's GPU keeps packed; unpacked by a worker. */
export async function ktxTexture(renderer: WebGLRenderer, bytes: Uint8Array): Promise<CompressedTexture> {
  const ktx = await (loader ??= load(renderer));
  return new Promise((done, failed) => ktx.parse(bytes.slice().buffer as ArrayBuffer, done, failed));
}
