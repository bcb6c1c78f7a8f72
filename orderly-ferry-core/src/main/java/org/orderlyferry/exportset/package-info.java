/** The export set: a folder of export files with their definitions, tallies and checksums. */
package org.orderlyferry.exportset;
