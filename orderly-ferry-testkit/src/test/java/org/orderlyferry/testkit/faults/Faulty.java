package org.orderlyferry.testkit.faults;

import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Supplier;

/** Doubles that fail at the n-th call of any of their methods, {@code close} and {@code finish} included. */
public final class Faulty {

    private final AtomicInteger calls = new AtomicInteger();
    private final int fatal;
    private final Supplier<RuntimeException> failure;
    private final List<String> made = new ArrayList<>();

    /**
     * A fault.
     *
     * @param fatal which call fails, from 1, counted over all doubles; 0 for none
     */
    public Faulty(int fatal, Supplier<RuntimeException> failure) {
        this.fatal = fatal;
        this.failure = failure;
    }

    /** A double of an interface that hands each call on, but for the fatal one. */
    public <T> T of(Class<T> type, T real) {
        Object proxy =
                Proxy.newProxyInstance(type.getClassLoader(), new Class<?>[] {type}, (self, method, arguments) -> {
                    if (method.getDeclaringClass() == Object.class) {
                        return method.invoke(real, arguments);
                    }
                    synchronized (made) {
                        made.add(type.getSimpleName() + "." + method.getName());
                    }
                    if (calls.incrementAndGet() == fatal) {
                        throw failure.get();
                    }
                    try {
                        return method.invoke(real, arguments);
                    } catch (InvocationTargetException e) {
                        throw e.getCause();
                    }
                });
        return type.cast(proxy);
    }

    /** Whether the fatal call was made. */
    public boolean isStruck() {
        return fatal > 0 && calls.get() >= fatal;
    }

    /** The call that failed. */
    public String struck() {
        synchronized (made) {
            return isStruck() ? made.get(fatal - 1) : "";
        }
    }
}
