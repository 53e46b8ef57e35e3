/** Memory of what the kernel makes: from the arena of its thread, and never given back one by one. */
import { take } from './prelude';

@unsafe @global
export function __alloc(size: usize): usize {
  return take(size);
}

@unsafe @global
export function __realloc(ptr: usize, size: usize): usize {
  return unreachable();
}

@unsafe @global
export function __free(ptr: usize): void {}

@unsafe @global
export function __new(size: usize, id: u32): usize {
  return take(size);
}

@unsafe @global
export function __renew(ptr: usize, size: usize): usize {
  return unreachable();
}

@global
export function __link(parent: usize, child: usize, expectMultiple: bool): void {}

@global
export function __pin(ptr: usize): usize {
  return ptr;
}

@global
export function __unpin(ptr: usize): void {}

@global
export function __visit(ptr: usize, cookie: u32): void {}

@global
export function __collect(): void {}
