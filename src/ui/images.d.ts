// Pictures can be imported where Next.js has not written its own type file yet: on a fresh checkout types are checked first.
/// <reference types="next/image-types/global" />
