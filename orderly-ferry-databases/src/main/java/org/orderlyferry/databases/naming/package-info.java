/** Names that a system can't take, brought to ones that it can, by a rule that anyone can follow. */
package org.orderlyferry.databases.naming;
