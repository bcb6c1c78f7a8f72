/** The demo's world: the collection of the Quillmoor Herbarium, made up from a fixed seed. */
package org.orderlyferry.testkit.herbarium;
