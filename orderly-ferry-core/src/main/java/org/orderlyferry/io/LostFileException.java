package org.orderlyferry.io;

import java.io.IOException;
import org.apiguardian.api.API;

/** A file system's server gave no answer: what was asked may have been done or not, and another try may do better. */
@API(status = API.Status.INTERNAL)
public final class LostFileException extends IOException {

    private static final long serialVersionUID = 1L;

    /** With what is known. */
    public LostFileException(String message, Throwable cause) {
        super(message, cause);
    }
}
