package ablecrate.destination;

/// What a card of a destination holds, whatever lies on it; 0 is no limit.
/// @param capacityBytes of all files, each in whole clusters
/// @param clusterBytes of which the file system gives a file a whole number; 0 and 1 are bytes
/// @param fileBytes the largest file: 4,294,967,295 on FAT32
/// @param foldersDeep how many folders a file may lie in
/// @param filesInFolder files of any kind in one folder
/// @param pathLength characters of a path below the card, folders and extension included
public record CardRules(long capacityBytes, int clusterBytes, long fileBytes, int foldersDeep, int filesInFolder, int pathLength) {
    public static final CardRules NONE = new CardRules(0, 0, 0, 0, 0, 0);

    public CardRules {
        if (capacityBytes < 0 || clusterBytes < 0 || fileBytes < 0 || foldersDeep < 0 || filesInFolder < 0 || pathLength < 0)
            throw new IllegalArgumentException("card: numbers must not be negative");
    }

    /// What a file takes of the card.
    public long taken(long bytes) { return clusterBytes <= 1 ? bytes : Math.ceilDiv(bytes, clusterBytes) * clusterBytes; }
}
