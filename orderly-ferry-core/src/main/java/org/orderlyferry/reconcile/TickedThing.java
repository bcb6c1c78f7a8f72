package org.orderlyferry.reconcile;

import org.jspecify.annotations.NullMarked;
import org.orderlyferry.model.LeftBehind;

/**
 * Something that no load carries.
 *
 * @param thing as the source has it
 * @param made whether the target has one of this kind and name by now
 */
@NullMarked
public record TickedThing(LeftBehind thing, boolean made) {}
