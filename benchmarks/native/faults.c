// Loaded in front of the C library, it ends the process (FAULT_KIND kill), or has the operation fail as on a full disk (fail), at the FAULT_AT-th operation that
// changes something below the folder FAULT_UNDER. Or the disk is full (fill) once FAULT_AT bytes were written there, and stays so. The file FAULT_FLAG is made
// when that happens.
//   cc -shared -fPIC -o faults.so faults.c -ldl
#define _GNU_SOURCE
#include <dlfcn.h>
#include <errno.h>
#include <fcntl.h>
#include <stdarg.h>
#include <stdatomic.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/types.h>
#include <sys/uio.h>
#include <unistd.h>

static atomic_long done, written;

static int is_kind(const char *name) {
    const char *kind = getenv("FAULT_KIND");
    return kind && strcmp(kind, name) == 0;
}

static int is_under(const char *path) {
    const char *under = getenv("FAULT_UNDER");
    return under && path && strncmp(path, under, strlen(under)) == 0;
}

static void raise_flag(void) {
    const char *flag = getenv("FAULT_FLAG");
    int (*real_open)(const char *, int, ...) = dlsym(RTLD_NEXT, "open");
    if (flag) close(real_open(flag, O_CREAT | O_WRONLY, 0644));
}

// Whether this operation is the one.
static int is_hit(const char *path) {
    const char *at = getenv("FAULT_AT");
    if (!at || is_kind("fill") || !is_under(path) || atomic_fetch_add(&done, 1) + 1 != atol(at)) return 0;
    raise_flag();
    if (is_kind("kill")) _exit(137);
    return 1;
}

// How many of the bytes the disk still takes; the last write before it is full is a short one.
static size_t room(const char *path, size_t count) {
    const char *at = getenv("FAULT_AT");
    if (!at || !is_kind("fill") || !is_under(path)) return count;
    long left = atol(at) - atomic_fetch_add(&written, (long) count);
    if (left >= (long) count) return count;
    raise_flag();
    return left > 0 ? left : 0;
}

static const char *path_of(int fd, char *buffer, size_t size) {
    char link[64];
    snprintf(link, sizeof link, "/proc/self/fd/%d", fd);
    ssize_t length = readlink(link, buffer, size - 1);
    if (length < 0) return NULL;
    buffer[length] = 0;
    return buffer;
}

#define FAIL do { errno = ENOSPC; return -1; } while (0)
#define ON_PATH(type, name, params, args, path) \
    type name params { type (*real) params = dlsym(RTLD_NEXT, #name); if (is_hit(path)) FAIL; return real args; }
#define ON_FD(type, name, params, args) \
    type name params { char b[4096]; type (*real) params = dlsym(RTLD_NEXT, #name); if (is_hit(path_of(fd, b, sizeof b))) FAIL; return real args; }

ON_PATH(int, rename, (const char *from, const char *to), (from, to), to)
ON_PATH(int, renameat, (int a, const char *from, int b, const char *to), (a, from, b, to), to)
ON_PATH(int, unlink, (const char *path), (path), path)
ON_PATH(int, unlinkat, (int at, const char *path, int flags), (at, path, flags), path)
ON_PATH(int, rmdir, (const char *path), (path), path)
ON_PATH(int, mkdir, (const char *path, mode_t mode), (path, mode), path)
ON_PATH(int, link, (const char *from, const char *to), (from, to), to)
#define WRITING(name, params, args, count) \
    ssize_t name params { \
        char b[4096]; const char *path = path_of(fd, b, sizeof b); ssize_t (*real) params = dlsym(RTLD_NEXT, #name); \
        if (is_hit(path)) FAIL; \
        size_t fits = room(path, count); \
        if (fits == 0 && count > 0) FAIL; \
        count = fits; \
        return real args; \
    }
WRITING(write, (int fd, const void *bytes, size_t count), (fd, bytes, count), count)
WRITING(pwrite64, (int fd, const void *bytes, size_t count, off64_t at), (fd, bytes, count, at), count)
WRITING(sendfile64, (int fd, int from, off64_t *at, size_t count), (fd, from, at, count), count)
WRITING(copy_file_range, (int from, off64_t *at, int fd, off64_t *to, size_t count, unsigned flags), (from, at, fd, to, count, flags), count)

ssize_t writev(int fd, const struct iovec *parts, int count) {
    ssize_t all = 0;
    for (int i = 0; i < count; i++) {
        ssize_t got = write(fd, parts[i].iov_base, parts[i].iov_len);
        if (got < 0) return all > 0 ? all : got;
        all += got;
        if ((size_t) got < parts[i].iov_len) break;
    }
    return all;
}
ON_FD(int, fsync, (int fd), (fd))
ON_FD(int, fdatasync, (int fd), (fd))
ON_FD(int, ftruncate64, (int fd, off64_t size), (fd, size))

#define OPENING(name) \
    int name(const char *path, int flags, ...) { \
        va_list more; va_start(more, flags); mode_t mode = flags & O_CREAT ? va_arg(more, mode_t) : 0; va_end(more); \
        int (*real)(const char *, int, ...) = dlsym(RTLD_NEXT, #name); \
        if ((flags & (O_WRONLY | O_RDWR | O_CREAT)) && is_hit(path)) FAIL; \
        return real(path, flags, mode); \
    }
OPENING(open)
OPENING(open64)
