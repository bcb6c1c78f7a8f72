/**
 * What every format, place and target must keep, as abstract test classes: a module extends each for what it registers, and
 * what is registered next is tested by being there.
 */
package org.orderlyferry.testkit.contract;
