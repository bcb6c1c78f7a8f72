package org.orderlyferry.crossing;

import org.apiguardian.api.API;
import org.orderlyferry.progress.ForwardingProgress;

/** Hands on what it hears of a run's work, within its steps, to a listener that may be another one for each step. */
@API(status = API.Status.INTERNAL)
public abstract class ForwardingRunListener extends ForwardingProgress implements RunListener {}
