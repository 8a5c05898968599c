/** What of the platform is looked at when a look has ended, because code is known to replace it. */

/** Interfaces that code is known to patch, with their prototypes. */
export const interfaces =
  `Object Function Array String Number Boolean Symbol BigInt Promise Map Set WeakMap WeakSet RegExp Date
Error Iterator ArrayBuffer Uint8Array EventTarget Event CustomEvent Node Element HTMLElement SVGElement Document
DocumentFragment ShadowRoot CharacterData Text Range Selection DOMTokenList NodeList HTMLCollection Attr
HTMLInputElement HTMLTextAreaElement HTMLSelectElement HTMLFormElement HTMLButtonElement HTMLAnchorElement
HTMLImageElement HTMLIFrameElement HTMLScriptElement HTMLStyleElement HTMLLinkElement HTMLDialogElement
HTMLCanvasElement HTMLMediaElement HTMLTemplateElement CanvasRenderingContext2D MutationObserver IntersectionObserver
ResizeObserver PerformanceObserver CSSStyleSheet CSSStyleDeclaration StyleSheet Storage History Navigator Location
Screen XMLHttpRequest XMLHttpRequestEventTarget Headers Request Response FormData URL URLSearchParams Blob File
FileReader Worker WebSocket EventSource MessageChannel MessagePort AbortController AbortSignal Crypto Performance
CustomElementRegistry Animation KeyframeEffect DataTransfer Clipboard IDBFactory CacheStorage MediaQueryList`.split(
    /\s+/,
  );

/** Single objects whose own functions are replaced as easily. */
export const objects = [
  'JSON',
  'Math',
  'Reflect',
  'Intl',
  'console',
  'navigator',
  'history',
  'crypto',
  'performance',
  'CSS',
];

/**
 * Constructors that a look may stand in for, as whole. The browser makes the hundreds that are never asked for only
 * when they are, which takes as long as all of the others: those are not looked at.
 */
export const constructors =
  `AnalyserNode AnimationEvent Audio AudioBuffer AudioContext AudioWorkletNode BroadcastChannel
ClipboardEvent ClipboardItem CloseEvent CloseWatcher Comment CompressionStream CSSRule CSSStyleRule
DOMException DOMMatrix DOMParser DOMPoint DOMQuad DOMRect DecompressionStream DocumentTimeline DragEvent
EditContext ErrorEvent FileList FocusEvent FontFace Gamepad GeolocationPosition HashChangeEvent Highlight Image
ImageBitmap ImageData ImageDecoder InputEvent IntersectionObserverEntry KeyboardEvent MediaMetadata MediaRecorder
MediaSource MediaStream MediaStreamTrack MessageEvent MouseEvent MutationRecord Navigation NodeFilter Notification
OfflineAudioContext OffscreenCanvas Option Path2D PaymentRequest PerformanceEntry PointerEvent PopStateEvent
ProgressEvent PromiseRejectionEvent PublicKeyCredential PushManager RTCDataChannel RTCPeerConnection ReadableStream
ReportingObserver ResizeObserverEntry ResizeObserverSize Sanitizer ScrollTimeline ServiceWorkerContainer SharedWorker
SpeechRecognition SpeechSynthesisUtterance StaticRange StorageEvent SubmitEvent TaskController TextDecoder
TextDecoderStream TextEncoder TextEncoderStream Touch TouchEvent TransformStream TransitionEvent TreeWalker
TrustedTypePolicyFactory UIEvent URLPattern VideoDecoder VideoEncoder VideoFrame ViewTimeline ViewTransition
VisualViewport WebGL2RenderingContext WebGLRenderingContext WebKitMutationObserver WebSocketStream WebTransport
WheelEvent WritableStream XMLSerializer XPathEvaluator webkitAudioContext webkitRTCPeerConnection
webkitSpeechRecognition AggregateError Array ArrayBuffer Atomics BigInt BigInt64Array BigUint64Array DataView
EvalError FinalizationRegistry Float32Array Float64Array Infinity Int16Array Int32Array Int8Array NaN Proxy
RangeError ReferenceError SyntaxError TypeError URIError Uint16Array Uint32Array Uint8ClampedArray WeakRef
WebAssembly Temporal`.split(/\s+/);
