/** What the values of a table look like, and the definitions that may be proposed from them. */
package org.orderlyferry.profile;
